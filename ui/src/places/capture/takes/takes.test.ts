import { expect, test } from 'vitest';
import { size } from '../../../look/format';
import { lanes, milliseconds, withMarker } from './takes';

test('lengths of silence read in the unit that fits', () => {
  expect(milliseconds(960, 48000)).toBe('20 ms');
  expect(milliseconds(149000, 48000)).toBe('3.1 s');
});

test('lanes read as ranges, and one lane as one', () => {
  expect(lanes([[1, 8]])).toBe('lanes 1–8');
  expect(lanes([[4, 4]])).toBe('lane 4');
  expect(
    lanes([
      [1, 8],
      [33, 33],
    ]),
  ).toBe('lanes 1–8 and 33');
});

test('a marker is put where it belongs in time', () => {
  const at = (place: number) => ({ at: place, frames: 0, name: `${place}` });
  expect(withMarker([at(10), at(30)], at(20)).map((one) => one.at)).toEqual([10, 20, 30]);
});

test('sizes are decimal, as disks are sold', () => {
  expect(size(1_400_000_000)).toBe('1.4 GB');
  expect(size(77_400_000)).toBe('77 MB');
  expect(size(10)).toBe('1 kB');
});
