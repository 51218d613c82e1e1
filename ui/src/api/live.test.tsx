import { act, render, screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import { connectLive, useLive } from './live';

const none = () => undefined;

/** An event source that says what it is told to. */
class Feed extends EventTarget {
  static last: Feed;
  constructor() {
    super();
    Feed.last = this;
  }
  close = none;
  say = (kind: string, data: object) =>
    this.dispatchEvent(new MessageEvent(kind, { data: JSON.stringify(data) }));
}

test('a page that was held up draws once what has piled up, and the last of it', async () => {
  vi.stubGlobal('EventSource', Feed);
  const end = connectLive(none, none, none, none, none, none);
  let drawn = 0;
  function Shown() {
    drawn += 1;
    return <p>{useLive().noise}</p>;
  }
  render(<Shown />);
  await act(async () => {
    for (let channel = 1; channel <= 100; channel += 1) {
      Feed.last.say('noise', { channel });
      await Promise.resolve(); // React draws a store's news between two events
    }
    await new Promise((done) => setTimeout(done, 20));
  });
  expect(screen.getByText('100')).toBeTruthy();
  expect(drawn).toBeLessThan(4);
  end();
  vi.unstubAllGlobals();
});
