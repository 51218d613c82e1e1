import { renderHook } from '@testing-library/react';
import { beforeEach, expect, test } from 'vitest';
import { patch } from '../places/patch/editors/patching';
import { answer, bodies, Refusal } from '../test/application';
import { showOf } from '../test/pieces';
import { edited, previewOf, shown } from '../test/screen';
import { useNotice } from './notices';
import { lookAt, takeCarefully, useLooking } from './preview';

const looking = () => renderHook(() => useLooking()).result.current;
const PREVIEW = 'POST /api/steps/preview';

beforeEach(() => {
  shown();
  answer('POST /api/edits', edited(8));
});

test('a step that nothing speaks against is taken at once', async () => {
  answer(PREVIEW, previewOf());
  await takeCarefully('clock', { leader: 'desk' }, (preview) => preview.losses.length > 0);
  expect(looking()).toBeNull();
  expect(bodies('POST /api/edits')).toHaveLength(1);
});

test('otherwise it is shown, and nothing is set', async () => {
  answer(PREVIEW, previewOf({ losses: [{ name: 'Fiddle', channel: 'desk/ch/4', lost: ['its socket'] }] }));
  await takeCarefully('remove_box', { box: 'b' }, (preview) => preview.losses.length > 0);
  expect(looking()).toMatchObject({ kind: 'remove_box', options: { box: 'b' } });
  expect(bodies('POST /api/edits')).toEqual([]);
});

test('a step that changes nothing is not taken', async () => {
  answer(PREVIEW, previewOf({ changes: [], settings: {} }));
  await takeCarefully('clock', { leader: 'desk' }, () => true);
  expect([looking(), bodies('POST /api/edits')]).toEqual([null, []]);
});

test('a step that cannot be computed is told', async () => {
  answer(PREVIEW, new Refusal(422, 'There is no box Z.'));
  expect(await lookAt('remove_box', { box: 'z' })).toBe(false);
  expect(renderHook(() => useNotice()).result.current?.text).toBe('There is no box Z.');
});

const desk = (stage_block: number) =>
  showOf({ id: 1, version: 7, profile: { stage_block, take_block: stage_block } });

test('a desk that patches singly is patched at once', async () => {
  await patch(desk(1), { 'channel/4/stage': 'desk/in/9' });
  expect(bodies(PREVIEW)).toEqual([]);
  expect(bodies('POST /api/edits')).toHaveLength(1);
});

test('a desk of blocks takes a free slot only when that was seen, and offers the whole block instead', async () => {
  answer(PREVIEW, previewOf({ notes: ['Fiddle takes a free slot; 23 stay free.'] }));
  await patch(desk(8), { 'channel/4/stage': 'desk/in/9' });
  expect(bodies(PREVIEW)).toEqual([
    { kind: 'settings', options: { settings: { 'channel/4/stage': 'desk/in/9' }, moving: 'slot' } },
  ]);
  expect(looking()?.ways.map((way) => way.options)).toEqual([{ moving: 'slot' }, { moving: 'block' }]);
  expect(bodies('POST /api/edits')).toEqual([]);
});

test('idle channels follow their block without a word; named ones are told', async () => {
  const moved = (what: string) => previewOf({ changes: [{ ...change, what }] });
  const change = {
    path: 'channel/5/take',
    what: '',
    field: 'hears on take',
    from: 'none',
    to: 'Card return 5',
  };
  answer(PREVIEW, moved('Channel 5'));
  await patch(desk(8), { 'channel/4/take': 'card/return/4' });
  expect(looking()).toBeNull();
  answer(PREVIEW, moved('Channel 5 Accordion'));
  await patch(desk(8), { 'channel/4/take': 'card/return/4' });
  expect(looking()).not.toBeNull();
});

test('what moves nothing along, such as a send, is set at once on any desk', async () => {
  await patch(desk(8), { 'send/4/source': 'desk/ch/4' });
  expect([bodies(PREVIEW), bodies('POST /api/edits').length]).toEqual([[], 1]);
});
