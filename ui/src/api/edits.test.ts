import { waitFor } from '@testing-library/react';
import { renderHook } from '@testing-library/react';
import { beforeEach, expect, test } from 'vitest';
import { answer, asked, bodies, Refusal } from '../test/application';
import { edited, previewOf, shown, Within } from '../test/screen';
import type { Show } from './client';
import { flip, hearShow, previewStep, set, step, stepUnless, takePreview, undo } from './edits';
import { useNotice } from './notices';
import { queries, refreshShow, SHOW, useShow } from './queries';

// A show of its own for each test: what an edit builds on is kept for each show.
let id = 100;
beforeEach(() => {
  id += 1;
  shown({ id });
});

const notice = () => renderHook(() => useNotice()).result.current;

test('an edit says against which version of which show it is made', async () => {
  answer('POST /api/edits', edited(8));
  expect(await set({ 'channel/1/gain': 20 }, 'Louder')).toBe(true);
  expect(bodies('POST /api/edits')).toEqual([
    { version: 7, show: id, settings: { 'channel/1/gain': 20 }, label: 'Louder' },
  ]);
});

test('the next edit builds on the last one, also before the show was read again', async () => {
  answer('POST /api/edits', edited(8));
  answer('POST /api/undo', edited(9));
  await set({ 'channel/1/gain': 20 });
  await undo();
  expect(bodies('POST /api/undo')).toEqual([{ version: 8, show: id }]);
});

test('edits go one behind the other, and none meets a version of its own browser', async () => {
  const waiting: ((answer: unknown) => void)[] = [];
  answer('POST /api/edits', () => new Promise((resolve) => waiting.push(resolve)));
  const all = [1, 2, 3].map((track) => set({ [`track/${track}/armed`]: false }));
  for (const version of [8, 9, 10]) {
    await waitFor(() => expect(waiting).toHaveLength(1));
    waiting.pop()?.(edited(version));
  }
  expect(await Promise.all(all)).toEqual([true, true, true]);
  expect(bodies('POST /api/edits').map((body) => body['version'])).toEqual([7, 8, 9]);
});

const show = () => queries.getQueryData<Show>(SHOW);
const made = (version: number) => ({ ...edited(version), show: { ...show(), version } });
const reads = () => bodies('GET /api/show').length;
const watched = () => renderHook(() => useShow(), { wrapper: Within });

test('the show comes with the answer to an edit, and is not asked for then', async () => {
  watched();
  let finish: (answer: unknown) => void = () => undefined;
  answer('POST /api/edits', () => new Promise((resolve) => (finish = resolve)));
  const editing = set({ 'channel/1/gain': 20 });
  const heard = hearShow({ id, version: 8 }); // the live feed is the first to tell
  await waitFor(() => expect(bodies('POST /api/edits')).toHaveLength(1));
  finish(made(8));
  expect(await editing).toBe(true);
  await heard;
  expect(show()?.version).toBe(8);
  expect(asked.map((one) => [one.request, one.prefer])).toEqual([
    ['POST /api/edits', 'return=representation'],
  ]);
});

test('a name that has no answer yet is not taken back by a show that somebody else has made', async () => {
  const before = shown({ id, channels: [{ number: 1, name: 'Fiddle' }] });
  watched();
  const name = () => show()?.channels[0]?.name;
  let finish: (answer: unknown) => void = () => undefined;
  answer('POST /api/edits', () => new Promise((resolve) => (finish = resolve)));
  answer('GET /api/show', () => ({ ...before, version: 8 }));
  const editing = set({ 'channel/1/name': 'Cornet' });
  await waitFor(() => expect(bodies('POST /api/edits')).toHaveLength(1));
  expect(name()).toBe('Cornet');
  refreshShow({ id, version: 8 });
  await waitFor(() => expect(show()?.version).toBe(8));
  expect(name()).toBe('Cornet');
  finish(edited(9));
  await editing;
  await waitFor(() => expect(reads()).toBe(2));
  await waitFor(() => expect(name()).toBe('Fiddle')); // what the application then says counts
});

// The application as it answers a page that names the edition it has.
const editions = (whole: Show, newest: () => object) =>
  answer('GET /api/show', (_body: Record<string, unknown>, url: URL) => {
    const since = url.searchParams.get('since');
    return since === whole.edition ? { ...newest(), since } : whole;
  });

test('a name that was refused goes, also where nothing else has changed', async () => {
  const whole = { ...shown({ id, channels: [{ number: 1, name: 'Fiddle' }] }), edition: 'e7' };
  const { version, edition } = whole;
  editions(whole, () => ({ id, version, edition, changes: [], undo: null, redo: null }));
  watched();
  refreshShow();
  await waitFor(() => expect(show()?.edition).toBe('e7'));
  answer('POST /api/edits', new Refusal(422, 'No such name.'));
  const editing = set({ 'channel/1/name': 'Cornet' });
  await waitFor(() => expect(show()?.channels[0]?.name).toBe('Cornet'));
  expect(await editing).toBe(false);
  await waitFor(() => expect(show()?.channels[0]?.name).toBe('Fiddle'));
});

test('changes that do not fit what is here are answered by asking for the whole show', async () => {
  const whole = { ...shown({ id }), edition: 'e7' };
  editions(whole, () => ({ id, version: 8, edition: 'e8', changes: [], undo: null, redo: null }));
  watched();
  refreshShow();
  await waitFor(() => expect(show()?.edition).toBe('e7'));
  answer('GET /api/show', (_body: Record<string, unknown>, url: URL) =>
    url.searchParams.has('since')
      ? { id, version: 9, edition: 'e9', since: 'e8', changes: [], undo: null, redo: null }
      : { ...whole, version: 9, edition: 'e9' },
  );
  refreshShow({ id, version: 9 });
  await waitFor(() => expect(show()?.version).toBe(9));
});

test('what the application makes of a name counts', async () => {
  shown({ id, channels: [{ number: 1, name: 'Fiddle' }] });
  watched();
  answer('POST /api/edits', () => ({
    ...edited(8),
    show: { ...show(), version: 8, channels: [{ number: 1, name: 'Cornet' }] },
  }));
  await set({ 'channel/1/name': ' Cornet ' });
  expect(show()?.channels[0]?.name).toBe('Cornet');
});

test('of edits one behind the other only the last asks for the show', async () => {
  answer('POST /api/edits', (body) => edited(Number(body['version']) + 1));
  await Promise.all([1, 2, 3].map((track) => set({ [`track/${track}/armed`]: false })));
  const prefers = asked.filter((one) => one.request === 'POST /api/edits').map((one) => one.prefer);
  expect(prefers).toEqual([null, null, 'return=representation']);
});

test('an older show that was on its way does not replace the one that came with an answer', async () => {
  watched();
  let late: (answer: unknown) => void = () => undefined;
  answer('GET /api/show', () => new Promise((resolve) => (late = resolve)));
  refreshShow();
  await waitFor(() => expect(reads()).toBe(1));
  const old = { ...show() };
  answer('POST /api/edits', made(8));
  await set({ 'channel/1/gain': 20 });
  late(old);
  await hearShow({ id, version: 8 });
  expect(show()?.version).toBe(8);
});

test('a show that came with an answer does not hold up a newer one', async () => {
  watched();
  answer('GET /api/show', { ...show(), version: 9 });
  answer('POST /api/edits', () => {
    refreshShow({ id, version: 9 }); // somebody else's, heard in between
    return made(8);
  });
  await set({ 'channel/1/gain': 20 });
  await waitFor(() => expect(show()?.version).toBe(9));
});

test("somebody else's edit is not waited with for an own one that gets no answer", async () => {
  watched();
  answer('GET /api/show', { ...show(), version: 9 });
  let finish: (answer: unknown) => void = () => undefined;
  answer('POST /api/edits', () => new Promise((resolve) => (finish = resolve)));
  const editing = set({ 'channel/1/gain': 20 });
  void hearShow({ id, version: 9 });
  await waitFor(() => expect(show()?.version).toBe(9));
  finish(edited(10));
  await editing;
});

test("somebody else's edit in between refuses all that did not see it, and they can be made again together", async () => {
  answer('POST /api/edits', new Refusal(409, 'The show changed before your edit: Name (Bram).'));
  const all = [set({ 'channel/1/gain': 20 }), set({ 'channel/2/gain': 21 })];
  queries.setQueryData<Show>(SHOW, (show) => show && { ...show, version: 9 });
  expect(await Promise.all(all)).toEqual([false, false]);
  expect(bodies('POST /api/edits').map((body) => body['version'])).toEqual([7, 7]);
  answer('POST /api/edits', edited(10));
  notice()?.action?.run();
  await waitFor(() =>
    expect(bodies('POST /api/edits').slice(2)).toMatchObject([
      { version: 9, settings: { 'channel/1/gain': 20 } },
      { version: 10, settings: { 'channel/2/gain': 21 } },
    ]),
  );
});

test('what was refused can be made again also after another edit was taken', async () => {
  answer('POST /api/edits', new Refusal(409, 'changed'));
  expect(await set({ 'channel/1/gain': 20 })).toBe(false);
  const offered = notice()?.action;
  queries.setQueryData<Show>(SHOW, (show) => show && { ...show, version: 8 });
  answer('POST /api/edits', edited(9));
  expect(await set({ 'channel/2/gain': 21 })).toBe(true);
  answer('POST /api/edits', edited(10));
  offered?.run();
  await waitFor(() =>
    expect(bodies('POST /api/edits')[2]).toMatchObject({ version: 9, settings: { 'channel/1/gain': 20 } }),
  );
});

test('two steps that are looked at and taken at once do not meet each other', async () => {
  let version = 7;
  answer('POST /api/steps/preview', () => previewOf({ version }));
  answer('POST /api/edits', (body) =>
    body['version'] === version ? edited((version += 1)) : new Refusal(409, 'changed'),
  );
  const both = [1, 2].map((channel) => stepUnless('join', { channel }, () => false));
  expect((await Promise.all(both)).map((one) => one.done)).toEqual([true, true]);
  expect((await stepUnless('join', { channel: 5 }, () => true)).done).toBeNull();
  expect(bodies('POST /api/edits')).toHaveLength(2);
});

test('a step that changes nothing says so', async () => {
  answer('POST /api/steps', { ...edited(7), changes: [] });
  expect(await step('chain_offsets', { port: 'a' })).toBe(true);
  expect(notice()?.text).toBe('Nothing to change; it is already set this way.');
});

test('a preview waits for the edits before it', async () => {
  let finish: (answer: unknown) => void = () => undefined;
  answer('POST /api/edits', () => new Promise((resolve) => (finish = resolve)));
  answer('POST /api/steps/preview', previewOf({ version: 8 }));
  const editing = set({ 'channel/1/gain': 20 });
  const looking = previewStep('main_mix');
  await waitFor(() => expect(bodies('POST /api/edits')).toHaveLength(1));
  expect(bodies('POST /api/steps/preview')).toEqual([]);
  finish(edited(8));
  expect(await editing).toBe(true);
  expect((await looking).version).toBe(8);
});

test('a stale edit is told with what changed, and can be made again in the newest version', async () => {
  answer('POST /api/edits', new Refusal(409, 'The show changed before your edit: Name (Bram).'));
  answer('GET /api/show', { ...queries.getQueryData<Show>(SHOW), version: 9 });
  expect(await set({ 'channel/1/gain': 20 })).toBe(false);
  expect(notice()).toMatchObject({
    kind: 'error',
    text: 'The show changed before your edit: Name (Bram).',
    action: { label: 'Apply again' },
  });
  await waitFor(() => expect(queries.getQueryData<Show>(SHOW)?.version).toBe(7)); // nobody shows it here
  queries.setQueryData<Show>(SHOW, (show) => show && { ...show, version: 9 });
  answer('POST /api/edits', edited(10));
  notice()?.action?.run();
  await waitFor(() => expect(bodies('POST /api/edits').map((body) => body['version'])).toEqual([7, 9]));
});

test('what is refused otherwise cannot be made again', async () => {
  answer('POST /api/edits', new Refusal(422, 'The preamp goes to 60 dB.'));
  expect(await set({ 'channel/1/gain': 99 })).toBe(false);
  expect(notice()).toEqual({ kind: 'error', text: 'The preamp goes to 60 dB.' });
});

test('what the desk did not take is told with the first of it', async () => {
  answer('POST /api/edits', {
    ...edited(8),
    desk_problems: ['strip/1/gain refused', 'strip/2/gain refused'],
  });
  await set({ 'channel/1/gain': 20 });
  expect(notice()?.text).toBe('strip/1/gain refused (and 1 more)');
});

test('a preview is taken against the version that it was made for; when it is stale, who shows it is told', async () => {
  answer('POST /api/edits', new Refusal(409, 'changed'));
  queries.setQueryData<Show>(SHOW, (show) => show && { ...show, version: 9 });
  const told: string[] = [];
  const shown = previewOf({ version: 7, label: 'x'.repeat(300) });
  expect(await takePreview(shown, (refused) => told.push(refused.message))).toBe(false);
  expect([told, notice()]).toEqual([['changed'], null]);
  const sent = bodies('POST /api/edits');
  expect(sent.map((body) => body['version'])).toEqual([7]);
  expect(String(sent[0]?.['label'])).toHaveLength(200);
});

test('a flip names no version, so that the way back is never refused', async () => {
  answer('POST /api/flip', edited(8));
  await flip('stage');
  await flip('take', { channels: [3, 4] });
  expect(bodies('POST /api/flip')).toEqual([{ to: 'stage' }, { to: 'take', channels: [3, 4] }]);
});

test('an application that does not answer is told', async () => {
  answer('POST /api/edits', () => {
    throw new Error('no line');
  });
  expect(await set({ 'channel/1/gain': 20 })).toBe(false);
  expect(notice()?.text).toBe('The application does not answer.');
});
