import type { PlayerLevels } from '../api/client';
import { touch } from './clock';

// What plays to the stage, as the player tells it 20 times a second while it changes, kept outside React.
export const song: { now: PlayerLevels | null; at: number } = { now: null, at: 0 };

export function hearSong(levels: PlayerLevels) {
  song.now = levels;
  song.at = performance.now();
  touch();
}

const FRESH_MS = 1000;

/** What was told last, unless that is old: a song that was stopped tells no more. */
export const playing = (): PlayerLevels | null =>
  song.now?.state && song.now.state !== 'ready' && performance.now() - song.at < FRESH_MS ? song.now : null;

/** dBFS of an output, from 1. */
export const outputLevel = (output: number): number =>
  (performance.now() - song.at < FRESH_MS ? song.now?.outputs[output - 1] : undefined) ?? -144;
