import type { Take, TakeMarker } from '../../../api/client';

export const STATES: Record<Take['state'], string> = {
  capturing: 'capturing',
  complete: '',
  'ended early': 'ended early',
  recovered: 'recovered',
  unreadable: 'cannot be read',
};

/** Tracks that reached full scale. */
export const clipsOf = (take: Take) => take.tracks.filter((track) => track.clips > 0).length;

/** 20 ms, 3.1 s. */
export function milliseconds(frames: number, rate: number): string {
  const ms = (frames * 1000) / rate;
  return ms < 1000 ? `${Math.round(ms)} ms` : `${(ms / 1000).toFixed(1)} s`;
}

/** lane 4, lanes 1–8 and 33–38. */
export function lanes(ranges: number[][]): string {
  const words = ranges.map(([first, last]) => (first === last ? `${first}` : `${first}–${last}`));
  const one = ranges.length === 1 && ranges[0]?.[0] === ranges[0]?.[1];
  return `${one ? 'lane' : 'lanes'} ${words.join(' and ')}`;
}

/** In order of time. */
export const withMarker = (markers: TakeMarker[], made: TakeMarker): TakeMarker[] =>
  [...markers, made].sort((one, two) => one.at - two.at);
