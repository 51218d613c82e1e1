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

// Only now, since they make the client.
const { hangUp, LiveSource } = await import('./live');
const { announce } = await import('../api/announce');
const { forgetEdits } = await import('../api/edits');
const { tell } = await import('../api/notices');
const { stopLooking } = await import('../api/preview');
const { forgetAnswers } = await import('../api/queries');
vi.stubGlobal('EventSource', LiveSource);

// All files share a page: each test leaves it as if it had just been opened.
afterEach(() => {
  cleanup();
  hangUp();
  forgetAll();
  forgetAnswers();
  forgetEdits();
  announce('');
  tell(null);
  stopLooking();
});
