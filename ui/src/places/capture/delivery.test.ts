import { expect, test } from 'vitest';
import type { DeliveryPlan } from '../../api/client';
import { choices, mostParts, wanted, withTrack } from './delivery';

const item = (name: string, track: number | null, parts = 1) => ({
  files: Array.from({ length: parts }, (_, at) => `/d/${name}-${at}`),
  names: Array.from({ length: parts }, (_, at) => `${name}-${at}`),
  track,
  score: 1,
  lanes: 1,
  rate: 48000,
  codec: 'flac',
  offset_s: 0,
  length_s: 1,
  notes: [],
});
const plan: DeliveryPlan = {
  items: [item('tuba', 1), item('fiddle', 4, 3), item('triangle', null)],
  problems: [],
  tracks: [],
};

test('all that was delivered is taken, on the track that it seems to be', () => {
  expect(choices(plan)).toEqual([
    { taken: true, track: 1 },
    { taken: true, track: 4 },
    { taken: true, track: null },
  ]);
  expect(mostParts(plan)).toBe(3);
});

test('a track has one recording: who had it gives it up', () => {
  const chosen = withTrack(choices(plan), 2, 4);
  expect(chosen.map((one) => one.track)).toEqual([1, null, 4]);
  expect(withTrack(chosen, 0, null).map((one) => one.track)).toEqual([null, null, 4]);
});

test('what is left out is not asked for', () => {
  const chosen = choices(plan).map((one, at) => (at === 1 ? { ...one, taken: false } : one));
  expect(wanted(plan, chosen)).toEqual([
    { files: ['/d/tuba-0'], track: 1 },
    { files: ['/d/triangle-0'], track: null },
  ]);
});
