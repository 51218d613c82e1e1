import { expect, test } from 'vitest';
import { showOf } from '../test/pieces';
import { shareList, shareShow } from './share';

const record = (name: string, strands = ['a', 'b']) => ({ name, strands, free: false });
const list = () => [record('one'), record('two'), record('three')];

test('what is equal stays the same object, in a list that stays the same where all of it is equal', () => {
  const before = list();
  expect(shareList(before, list())).toBe(before);
});

test('what has changed is new, and so is its list, but nothing beside it', () => {
  const before = list();
  const now = list();
  now[1] = record('two', ['a', 'c']);
  const shared = shareList(before, now);
  expect(shared).toEqual(now);
  expect(shared.map((one, i) => one === before[i])).toEqual([true, false, true]);
});

test('longer and shorter lists are as they are read', () => {
  const before = list();
  expect(shareList(before, list().slice(0, 2))).toEqual(list().slice(0, 2));
  expect(shareList(before, [...list(), record('four')])).toEqual([...list(), record('four')]);
  expect(shareList([record('one', [])], [record('one', ['a'])])).toEqual([record('one', ['a'])]);
});

test('a show is always as it was read', () => {
  const show = (undo: string | null, names: string[]) =>
    showOf({
      id: 1,
      version: names.length,
      undo,
      findings: [{ id: 'x', path: [{ point: 'desk/in/1' }] }],
      channels: names.map((name) => record(name)),
      sends: [],
      tracks: [],
      strands: [],
      sheet: { ports: names.map((name) => record(name)), threads: [], loose: [] },
    });
  const before = show(null, ['one', 'two']);
  const now = show('Names', ['one', 'other']);
  const shared = shareShow(before, now);
  expect(shared).toEqual(now);
  expect(shared.findings).toBe(before.findings);
  expect(shared.channels[0]).toBe(before.channels[0]);
  expect(shared.sheet.ports[1]).not.toBe(before.sheet.ports[1]);
  expect(shareShow(undefined, now)).toBe(now);
});
