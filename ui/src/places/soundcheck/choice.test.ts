import { expect, test } from 'vitest';
import type { Show, Take } from '../../api/client';
import { ofOther, playable, remember, remembered, usual } from './choice';

const show = { id: 1, about: { name: 'Quay' } } as Show;
const take = (id: string, project: string, more: Partial<Take> = {}) =>
  ({ id, project, state: 'complete', frames: 10, ...more }) as Take;

test('takes the newest one of this show where nobody has chosen', () => {
  const takes = [take('c', 'Harbour'), take('b', 'Quay'), take('a', 'Quay')];
  expect(usual(takes, show)?.id).toBe('b');
  expect(usual([take('c', 'Harbour')], show)?.id).toBe('c');
  expect(usual([], show)).toBeUndefined();
});

test('knows takes of other shows, and takes those that tell of none for ours', () => {
  expect(['Harbour', ' Quay ', ''].map((project) => ofOther({ project }, show))).toEqual([
    true,
    false,
    false,
  ]);
});

test('offers what has sound and is not captured still', () => {
  const takes = [take('a', ''), take('b', '', { state: 'capturing' }), take('c', '', { frames: 0 })];
  expect(playable(takes).map((one) => one.id)).toEqual(['a']);
});

test('remembers the choice of each show', () => {
  remember(1, 'a');
  remember(2, 'b');
  expect([1, 2, 3].map(remembered)).toEqual(['a', 'b', null]);
});
