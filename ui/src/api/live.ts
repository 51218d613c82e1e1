import { replaceEqualDeep } from '@tanstack/react-query';
import { useSyncExternalStore } from 'react';
import { hearDesk, hearLanes } from '../meters/levels';
import { hearSong } from '../meters/song';
import type { LiveDesk, LiveLanes, LiveState, PlayerLevels, PlayerStatus } from './client';
import { tell as notify } from './notices';
import type { LiveShow } from './queries';

// The live feed: one EventSource for the page. State goes to React; levels go past it to the meters.
interface Live {
  connected: boolean;
  state: LiveState | null;
  /** The channel that just made a noise. */
  noise: number | null;
  /** What is played to the stage; null while the player is away. */
  player: PlayerStatus | null;
}

const NOTHING: Live = { connected: false, state: null, noise: null, player: null };
let live = NOTHING;
const watchers = new Set<() => void>();
let telling: ReturnType<typeof setTimeout> | null = null;

// What comes at once is told at once. A store's news are rendered before anything else that waits: on a page that was held up, fifty of them in a
// row would leave the rest no turn, and React takes that for an endless loop and ends.
function put(change: Partial<Live>) {
  if (Object.entries(change).every(([key, value]) => live[key as keyof Live] === value)) return;
  live = { ...live, ...change };
  telling ??= setTimeout(() => {
    telling = null;
    watchers.forEach((tell) => tell());
  });
}

const data = <T>(event: Event) => JSON.parse((event as MessageEvent<string>).data) as T;

// No word for this long, and the line counts as lost even if the browser has not noticed (levels come 20 a second,
// state every second).
const SILENCE_MS = 4000;

/** Connects for good; comes back on its own. What it returns ends that, and forgets what was heard. */
export function connectLive(
  onShow: (now?: LiveShow) => void,
  onTakes: () => void,
  onTicks: () => void,
  onBack: () => void,
  onHeard: () => void,
  onSongs: () => void,
) {
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
      onBack();
      onShow();
      onTakes();
      onTicks();
      onHeard();
      onSongs();
    });
    source.addEventListener('error', () => put({ connected: false }));
    // Something was left out since too much waited: everything is read again.
    source.addEventListener('missed', () => {
      onShow();
      onTakes();
      onTicks();
      onHeard();
      onSongs();
    });
    source.addEventListener('state', (event) => {
      note();
      put({ state: replaceEqualDeep(live.state, data<LiveState>(event)) });
    });
    source.addEventListener('show', (event) => onShow(data<LiveShow>(event)));
    source.addEventListener('trouble', (event) =>
      notify({ kind: 'error', text: data<{ text: string }>(event).text }),
    );
    source.addEventListener('heard', onHeard);
    source.addEventListener('songs', onSongs);
    source.addEventListener('player', (event) => {
      const player = data<PlayerStatus>(event);
      put({ player: player.state === 'away' ? null : replaceEqualDeep(live.player, player) });
    });
    source.addEventListener('song', (event) => hearSong(data<PlayerLevels>(event)));
    source.addEventListener('takes', onTakes);
    source.addEventListener('ticks', onTicks);
    source.addEventListener('noise', (event) =>
      put({ noise: data<{ channel: number | null }>(event).channel }),
    );
    source.addEventListener('lanes', (event) => {
      note();
      hearLanes(data<LiveLanes>(event));
    });
    source.addEventListener('desk', (event) => hearDesk(data<LiveDesk>(event)));
  };

  open();
  const silence = setInterval(() => {
    if (Date.now() - heard < SILENCE_MS) return;
    put({ connected: false });
    heard = Date.now();
    open();
  }, 1000);
  return () => {
    clearInterval(silence);
    source?.close();
    put(NOTHING);
  };
}

const watch = (tell: () => void) => {
  watchers.add(tell);
  return () => watchers.delete(tell);
};

export const useLive = (): Live => useSyncExternalStore(watch, () => live);

/** How the parts are; the same object for as long as nothing of it changes, and whoever asks only this is drawn again only then. */
export const useLiveState = (): LiveState | null => useSyncExternalStore(watch, () => live.state);

/** What is played to the stage. */
export const useLivePlayer = (): PlayerStatus | null => useSyncExternalStore(watch, () => live.player);

/** Whether the application is heard; those who ask only this are not bothered by anything else. */
export const useConnected = (): boolean => useSyncExternalStore(watch, () => live.connected);

/** The channel that just made a noise. */
export const useNoise = (): number | null => useSyncExternalStore(watch, () => live.noise);

/** Whether a channel is the one that just made a noise. */
export const useNoisy = (channel: number): boolean =>
  useSyncExternalStore(watch, () => live.noise === channel);
