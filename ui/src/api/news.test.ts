import { beforeEach, expect, test } from 'vitest';
import { showOf } from '../test/pieces';
import type { Show } from './client';
import { changed, forgetTold, learn, type ShowNews, since } from './news';

const show = (version: number, part: Partial<Show> = {}): Show =>
  showOf({ id: 1, version, edition: `e${version}`, channels: [], ...part });
const news = (from: number, to: number, changes: ShowNews['changes'] = []): ShowNews => ({
  id: 1,
  version: to,
  edition: `e${to}`,
  since: `e${from}`,
  changes,
  undo: `version ${to}`,
  redo: null,
});
const about = (name: string) => [{ op: 'replace' as const, path: '/about', value: { name } }];

beforeEach(forgetTold);

test('a request names the edition that is here', () => {
  expect(since()).toEqual({});
  learn(show(7));
  expect(since()).toEqual({ since: 'e7' });
});

test('what has changed is added to the show that is here', () => {
  learn(show(7));
  expect(learn(news(7, 8, about('Quay')))).toMatchObject({
    version: 8,
    edition: 'e8',
    about: { name: 'Quay' },
    undo: 'version 8',
  });
  expect(since()).toEqual({ since: 'e8' });
});

test('an answer may build on an edition before the one that is here by now', () => {
  learn(show(7));
  learn(news(7, 8, about('Quay')));
  expect(learn(news(7, 9, about('Harbour')))).toMatchObject({ version: 9, about: { name: 'Harbour' } });
});

test('an answer that was overtaken on its way changes nothing', () => {
  learn(show(7));
  learn(news(7, 9, about('Harbour')));
  expect(learn(news(7, 8, about('Quay')))).toMatchObject({ version: 9 });
  expect(learn(show(8), { since: 'e7' })).toMatchObject({ version: 9 });
  expect(since()).toEqual({ since: 'e9' });
});

test('a whole show that answers to the newest edition counts, also where the application went back', () => {
  learn(show(7));
  expect(learn(show(3), { since: 'e7' })).toMatchObject({ version: 3 });
  expect(since()).toEqual({ since: 'e3' });
});

test('another show counts whatever its version', () => {
  learn(show(7));
  expect(learn({ ...show(2), id: 5 })).toMatchObject({ id: 5 });
});

test('what builds on an edition that is not here is not understood', () => {
  expect(learn(news(7, 8))).toBeUndefined();
  learn(show(7));
  expect(learn(news(6, 8))).toBeUndefined();
  for (let version = 7; version < 17; version++) learn(news(version, version + 1));
  expect(learn(news(7, 18))).toBeUndefined(); // that is too long ago
});

test('changes are made as RFC 6902 says, to copies of what they touch alone', () => {
  const before = showOf({
    id: 1,
    sends: [1, 2, 3, 4],
    channels: [{ number: 1 }],
    setup: { buffer: 256, 'a/b': 1 },
  });
  const now = changed(before, [
    { op: 'remove', path: '/sends/3' },
    { op: 'remove', path: '/sends/0' },
    { op: 'add', path: '/sends/1', value: 9 },
    { op: 'replace', path: '/sends/2', value: 8 },
    { op: 'replace', path: '/setup/buffer', value: 512 },
    { op: 'remove', path: '/setup/a~1b' },
  ]);
  expect(now).toMatchObject({ sends: [2, 9, 8], setup: { buffer: 512 } });
  expect(now.setup).not.toHaveProperty('a/b');
  expect(now.channels).toBe(before.channels);
  expect(before).toMatchObject({ sends: [1, 2, 3, 4], setup: { buffer: 256, 'a/b': 1 } });
});
