import { expect, test } from 'vitest';
import { inRange, moved, rowsOf, start } from './cursor';
import { BRACKETS, columnsFor, type Rail, RAILS, threadPath, widthOf } from './layout';
import { port } from '../../../test/pieces';

const rows = rowsOf([
  ...Array.from({ length: 18 }, (_, row) => port('channel', row)),
  ...Array.from({ length: 20 }, (_, row) => port('send', row)),
  ...[0, 1, 5, 9].map((row) => port('return', row)),
]);

test('arrows move, stop at the edges, and leave other keys alone', () => {
  expect(moved(start, 'ArrowDown', false, rows)).toEqual({ rail: 'channel', row: 1, anchor: 1 });
  expect(moved(start, 'ArrowUp', false, rows)).toEqual(start);
  expect(moved({ rail: 'return', row: 9, anchor: 9 }, 'ArrowRight', false, rows)?.rail).toBe('return');
  expect(moved({ rail: 'send', row: 19, anchor: 19 }, 'ArrowLeft', false, rows)).toEqual({
    rail: 'channel',
    row: 17,
    anchor: 17,
  });
  expect(moved(start, 'x', false, rows)).toBeNull();
});

test('rows without a port are stepped over, and a rail beside is entered at the nearest one', () => {
  expect(moved({ rail: 'return', row: 1, anchor: 1 }, 'ArrowDown', false, rows)?.row).toBe(5);
  expect(moved({ rail: 'return', row: 0, anchor: 0 }, 'End', false, rows)?.row).toBe(9);
  expect(moved({ rail: 'return', row: 9, anchor: 9 }, 'PageUp', false, rows)?.row).toBe(0);
});

test('shift grows a range on one rail', () => {
  const two = moved(start, 'ArrowDown', true, rows);
  expect(two).toEqual({ rail: 'channel', row: 1, anchor: 0 });
  expect(
    [port('channel', 0), port('channel', 1), port('channel', 2), port('send', 0)].map((one) =>
      inRange(two ?? start, one),
    ),
  ).toEqual([true, true, false, false]);
});

test('threads are straight between equal rows and curved otherwise', () => {
  const columns = columnsFor(1000, false, 'channel');
  expect(threadPath(columns, port('socket', 3), port('channel', 3))).toMatch(/^M130 \S+H\S+$/);
  expect(threadPath(columns, port('socket', 3), port('channel', 5))).toContain('C');
});

test('columns share the width, and leave room for brackets', () => {
  expect(columnsFor(1000, true, 'channel').socket.left).toBe(BRACKETS);
  expect(widthOf(columnsFor(1000, false, 'channel'))).toBe(1000);
});

test.each([280, 360, 500, 640, 700, 800, 887, 888])(
  'a sheet %i pixels wide has all of its rails',
  (width) => {
    for (const at of RAILS) {
      const columns = columnsFor(width, true, at);
      expect(widthOf(columns)).toBeLessThanOrEqual(Math.max(width, 344));
      RAILS.slice(1).forEach((rail, i) => {
        const before = columns[RAILS[i] as Rail];
        expect(columns[rail].left - before.left - before.width).toBeGreaterThanOrEqual(14);
      });
      expect(columns[at].slim).toBe(false);
    }
  },
);

test('the rails farthest from the cursor become slim first', () => {
  const slim = (width: number, at: Rail) => RAILS.filter((rail) => columnsFor(width, false, at)[rail].slim);
  expect(slim(776, 'channel')).toEqual([]);
  expect(slim(720, 'channel')).toEqual(['return']);
  expect(slim(600, 'channel')).toEqual(['track', 'return']);
  expect(slim(600, 'return')).toEqual(['socket', 'channel']);
  expect(slim(360, 'track')).toEqual(['socket', 'channel', 'send', 'return']);
});
