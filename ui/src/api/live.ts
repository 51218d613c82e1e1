import { useSyncExternalStore } from 'react';
import { hearDesk, hearLanes } from '../meters/levels';
import type { LiveDesk, LiveLanes, LiveState } from './client';

// The live feed: one EventSource for the page. State goes to React; levels go past it to the meters.
interface Live {
  connected: boolean;
  state: LiveState | null;
}

let live: Live = { connected: false, state: null };
const watchers = new Set<() => void>();

function put(change: Partial<Live>) {
  live = { ...live, ...change };
  watchers.forEach((tell) => tell());
}

const data = <T>(event: Event) => JSON.parse((event as MessageEvent<string>).data) as T;

// No word for this long, and the line counts as lost even if the browser has not noticed (levels come 20 a second,
// state every second).
const SILENCE_MS = 4000;

/** Connects for good; comes back by itself. */
export function connectLive(onShow: (version: number) => void, onTakes: () => void) {
  let source: EventSource | null = null;
  let heard = Date.now();

  const note = () => {
    heard = Date.now();
    if (!live.connected) put({ connected: true });
  };
  const open = () => {
    source?.close();
    source = new EventSource('/api/live');
    source.addEventListener('open', () => {
      note();
      onShow(-1);
      onTakes();
    });
    source.addEventListener('error', () => put({ connected: false }));
    source.addEventListener('state', (event) => {
      note();
      put({ state: data<LiveState>(event) });
    });
    source.addEventListener('show', (event) => onShow(data<{ version: number }>(event).version));
    source.addEventListener('takes', onTakes);
    source.addEventListener('lanes', (event) => {
      note();
      hearLanes(data<LiveLanes>(event));
    });
    source.addEventListener('desk', (event) => hearDesk(data<LiveDesk>(event)));
  };

  open();
  const watch = setInterval(() => {
    if (Date.now() - heard < SILENCE_MS) return;
    put({ connected: false });
    heard = Date.now();
    open();
  }, 1000);
  return () => {
    clearInterval(watch);
    source?.close();
  };
}

export function useLive(): Live {
  return useSyncExternalStore(
    (tell) => {
      watchers.add(tell);
      return () => watchers.delete(tell);
    },
    () => live,
  );
}
