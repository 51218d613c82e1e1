import { expect, test } from 'vitest';
import type { Port } from '../../api/client';
import { inRange, moved, start } from './cursor';
import { columnsFor, threadPath } from './layout';

const sizes = { socket: 18, channel: 18, send: 20, track: 20, return: 20 };
const port = (rail: Port['rail'], row: number): Port => ({
  id: `${rail}/${row}`,
  rail,
  row,
  number: row + 1,
  mark: '',
  name: '',
  note: '',
  dye: 'iron',
  free: false,
  strands: [],
});

test('arrows move, stop at the edges, and leave other keys alone', () => {
  expect(moved(start, 'ArrowDown', false, sizes)).toEqual({ rail: 'channel', row: 1, anchor: 1 });
  expect(moved(start, 'ArrowUp', false, sizes)).toEqual(start);
  expect(moved({ rail: 'return', row: 19, anchor: 19 }, 'ArrowRight', false, sizes)?.rail).toBe('return');
  expect(moved({ rail: 'send', row: 19, anchor: 19 }, 'ArrowLeft', false, sizes)).toEqual({
    rail: 'channel',
    row: 17,
    anchor: 17,
  });
  expect(moved(start, 'x', false, sizes)).toBeNull();
});

test('shift grows a range on one rail', () => {
  const two = moved(start, 'ArrowDown', true, sizes);
  expect(two).toEqual({ rail: 'channel', row: 1, anchor: 0 });
  expect(
    [port('channel', 0), port('channel', 1), port('channel', 2), port('send', 0)].map((one) =>
      inRange(two ?? start, one),
    ),
  ).toEqual([true, true, false, false]);
});

test('threads are straight between equal rows and curved otherwise', () => {
  const columns = columnsFor(1000);
  expect(threadPath(columns, port('socket', 3), port('channel', 3))).toMatch(/^M112 \S+H\S+$/);
  expect(threadPath(columns, port('socket', 3), port('channel', 5))).toContain('C');
});
