import { expect, test } from 'vitest';
import type { DeliveryItem, DeliveryPlan } from '../../../api/client';
import {
  canStandAside,
  changed,
  channels,
  earlier,
  filesOf,
  firstOfEach,
  joinedAside,
  joinedBehind,
  mostParts,
  type Row,
  rowsOf,
  splitChannels,
  splitParts,
  wanted,
  withTrack,
} from './delivery';

const item = (name: string, track: number | null, parts = 1, lanes = 1): DeliveryItem => ({
  pieces: Array.from({ length: parts }, (_, at) => [
    { file: `/d/${name}-${at}`, name: `${name}-${at}`, lane: null, lanes },
  ]),
  title: name,
  key: name.replace(/ \d+$/, ''),
  track,
  score: 1,
  lanes: Math.min(lanes, 2),
  rate: 48000,
  codec: 'flac',
  offset: 0,
  length_s: 1,
  notes: [],
  warnings: [],
});
const plan: DeliveryPlan = {
  items: [item('tuba', 1), item('fiddle', 4, 3), item('triangle', null), item('room', null, 1, 2)],
  problems: [],
  tracks: [],
  rate: 48000,
};
const rows = rowsOf(plan);
const files = (row?: Row) =>
  row?.pieces.map((piece) =>
    piece.map(({ file, lane }) => file + (lane === null ? '' : `#${lane}`)).join('&'),
  );

test('all that was delivered is taken, on the track that it seems to be', () => {
  expect(rows.map((row) => [row.taken, row.track])).toEqual([
    [true, 1],
    [true, 4],
    [true, null],
    [true, null],
  ]);
  expect(mostParts(rows)).toBe(3);
});

test('a track has one recording: who had it gives it up', () => {
  const now = withTrack(rows, 2, 4);
  expect(now.map((one) => one.track)).toEqual([1, null, 4, null]);
  expect(withTrack(now, 0, null).map((one) => one.track)).toEqual([null, null, 4, null]);
});

test('what is left out is not asked for', () => {
  const left = changed(rows, 1, { taken: false });
  expect(wanted(left).map((one) => one.track)).toEqual([1, null, null]);
});

test('a recording goes on with another, and comes apart again', () => {
  const joined = joinedBehind(rows, 0, 2);
  expect(files(joined[0])).toEqual(['/d/tuba-0', '/d/triangle-0']);
  expect(joined).toHaveLength(3);
  expect(files(earlier(joined, 0, 1)[0])).toEqual(['/d/triangle-0', '/d/tuba-0']);
  expect(splitParts(joined, 0).map((row) => [files(row), row.track])).toEqual([
    [['/d/tuba-0'], 1],
    [['/d/triangle-0'], null],
    [['/d/fiddle-0', '/d/fiddle-1', '/d/fiddle-2'], 4],
    [['/d/room-0'], null],
  ]);
});

test('one that has a track lends it to the one that it is joined with', () => {
  expect(joinedBehind(rows, 2, 0)[1]?.track).toBe(1);
});

test('two mono recordings of as many parts become left and right, and a stereo one two mono ones', () => {
  const [tuba, fiddle, triangle, room] = plan.items as [
    DeliveryItem,
    DeliveryItem,
    DeliveryItem,
    DeliveryItem,
  ];
  expect([canStandAside(tuba, triangle), canStandAside(tuba, fiddle), canStandAside(tuba, room)]).toEqual([
    true,
    false,
    false,
  ]);
  const aside = joinedAside(rows, 0, 2);
  expect(files(aside[0])).toEqual(['/d/tuba-0&/d/triangle-0']);
  expect(splitChannels(aside, 0, 2).slice(0, 2).map(files)).toEqual([['/d/tuba-0'], ['/d/triangle-0']]);
  expect([channels(tuba), channels(room)]).toEqual([1, 2]);
  expect(splitChannels(rows, 3, 2).slice(3).map(files)).toEqual([['/d/room-0#0'], ['/d/room-0#1']]);
});

test('files are told as people read them', () => {
  const [tuba] = plan.items as [DeliveryItem];
  const one = { file: '/d/x', name: 'x.wav', lane: 1, lanes: 1 };
  expect(filesOf({ ...tuba, pieces: [[one, { ...one, name: 'y.wav', lane: null }], [one]] })).toBe(
    'x.wav channel 2 with y.wav, x.wav channel 2',
  );
});

test('of recordings that differ in a number alone, the first is taken; what has no words is never the same', () => {
  const items = ['Fiddle 1', 'Fiddle 2', 'Tuba', 'Fiddle 3'].map((name) => item(name, null));
  const nameless = { ...item('x', null), key: '' };
  const all = [...items, nameless, nameless];
  const ticked = firstOfEach(all, rowsOf({ ...plan, items: all })).map((row) => row.taken);
  expect(ticked).toEqual([true, false, true, false, true, true]);
});
