import { cleanup, configure } from '@testing-library/react';
import { afterEach, vi } from 'vitest';
import { forgetAll, hear } from './application';

// When to give up, not how long to wait: a busy machine takes many times longer.
configure({ asyncUtilTimeout: 30_000 });

// Before the client is made: it keeps the fetch that it finds.
vi.stubGlobal('fetch', hear);
// What jsdom lacks.
vi.stubGlobal('CSS', { escape: (text: string) => text.replace(/["\\]/g, '\\$&') });
vi.stubGlobal(
  'ResizeObserver',
  class {
    observe = () => undefined;
    unobserve = () => undefined;
    disconnect = () => undefined;
  },
);

afterEach(async () => {
  cleanup();
  forgetAll();
  const { queries } = await import('../api/queries');
  const { tell } = await import('../api/notices');
  const { stopLooking } = await import('../api/preview');
  queries.clear();
  tell(null);
  stopLooking();
});
