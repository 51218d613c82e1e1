import { screen, waitFor } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import { PreviewDialog } from '../../../app/dialogs/PreviewDialog';
import { answer, bodies } from '../../../test/application';
import { port } from '../../../test/pieces';
import { draw, edited, previewOf, shown } from '../../../test/screen';
import { InputListDialog } from './InputListDialog';
import { RunStraightDialog } from './RunStraightDialog';
import { TracksDialog } from './TracksDialog';

const PREVIEW = 'POST /api/steps/preview';
const close = vi.fn();
const looked = () => bodies(PREVIEW).map((body) => [body['kind'], body['options']]);

beforeEach(() => {
  close.mockClear();
  answer(PREVIEW, previewOf());
  answer('POST /api/edits', edited(8));
  answer('POST /api/steps', edited(8));
});

const show = () =>
  shown({
    channels: [1, 2, 3].map((number) => ({ number, name: number < 3 ? `Source ${number}` : '' })),
    sends: [{ source: 'desk/ch/1' }],
    setup: { default_tap: 'preamp' },
    profile: { taps: [{ id: 'preamp', label: 'preamp' }] },
    sheet: {
      ports: [port('socket', 0, { mark: 'A 1' }), port('socket', 1, { missing: 'none', mark: 'In 13' })],
    },
  });

const LIST = {
  text: 'channel,name\n1,Tuba',
  header: 1,
  rows: [
    { line: 1, cells: ['channel', 'name'] },
    { line: 2, cells: ['1', 'Tuba'] },
  ],
  known: {},
  fields: ['channel', 'name', 'socket'],
};
const column = (header: string, field: string | null, key = header.toLowerCase()) => ({
  header,
  key,
  field,
  guess: null as string | null,
  samples: ['Tuba'],
});

test('a run starts with the range that is chosen on the sheet', async () => {
  const chosen = [4, 5, 6].map((row) => port('track', row));
  const { user } = draw(<RunStraightDialog open onClose={close} chosen={chosen} show={show()} />);
  await user.click(screen.getByRole('button', { name: 'Patch in order' }));
  await waitFor(() => expect(close).toHaveBeenCalled());
  expect(looked()).toEqual([['run_straight', { column: 'track_input', first: 5, count: 3, start: 5 }]]);
});

test('a run of sockets starts at a socket that is there', async () => {
  const { user } = draw(
    <RunStraightDialog open onClose={close} chosen={[port('channel', 1)]} show={show()} />,
  );
  await user.click(screen.getByRole('combobox', { name: 'Starting with socket' }));
  expect(screen.getAllByRole('option').map((one) => one.textContent)).toEqual(['A 1']);
  await user.click(screen.getByRole('option'));
  await user.click(screen.getByRole('button', { name: 'Patch in order' }));
  await waitFor(() =>
    expect(looked()).toEqual([['run_straight', { column: 'socket', first: 2, count: 1, start: 'socket/1' }]]),
  );
});

test('tracks are made from the named channels unless a range is chosen', async () => {
  const { user } = draw(<TracksDialog open onClose={close} chosen={[]} show={show()} />);
  await user.click(screen.getByRole('switch', { name: /Stereo/ }));
  await user.click(screen.getByRole('button', { name: 'Preview tracks…' }));
  await waitFor(() =>
    expect(looked()).toEqual([['tracks', { first: 1, count: 2, track: 1, lane: 1, stereo: true }]]),
  );
});

test('the main mix is put on a spare pair in one step', async () => {
  const { user } = draw(<TracksDialog open onClose={close} chosen={[]} show={show()} />);
  await user.click(screen.getByRole('button', { name: 'Capture the main mix on a spare pair…' }));
  await waitFor(() => expect(bodies('POST /api/steps/preview')).toMatchObject([{ kind: 'main_mix' }]));
});

test('an input list is looked at before anything is changed, and closes when it was taken', async () => {
  show();
  const { user } = draw(
    <>
      <InputListDialog open onClose={close} />
      <PreviewDialog />
    </>,
  );
  answer('PUT /api/input-lists/file', {
    ...LIST,
    columns: [column('channel', 'channel'), column('name', 'name')],
  });
  const file = new File(['channel,name\n1,Tuba'], 'inputs.csv', { type: 'text/csv' });
  await user.upload(screen.getByLabelText('Input list file'), file);
  const make = await screen.findByRole('button', { name: 'Apply 1 change' });
  expect([looked(), bodies('POST /api/edits')]).toEqual([
    [['input_list', { text: LIST.text, columns: {}, header: 1 }]],
    [],
  ]);
  await user.click(make);
  await waitFor(() => expect(close).toHaveBeenCalled());
});

test('a column that nobody knows is asked for, and remembered', async () => {
  show();
  answer('POST /api/input-lists/columns', { done: true });
  answer('PUT /api/input-lists/file', {
    ...LIST,
    known: { strip: '' },
    columns: [column('Wer?', null, 'wer'), column('Strip', null), column('Title', 'name')],
  });
  const { user } = draw(<InputListDialog open onClose={close} />);
  await user.upload(screen.getByLabelText('Input list file'), new File(['x'], 'inputs.xlsx'));
  await user.click(await screen.findByRole('combobox', { name: 'Wer? is' }));
  await user.click(screen.getByRole('option', { name: 'name of the source' }));
  expect(screen.getByRole('combobox', { name: 'Title is' }).textContent).toBe('ignore');
  await user.click(screen.getByRole('button', { name: 'Preview patch…' }));
  await waitFor(() =>
    expect(looked()).toEqual([
      ['input_list', { text: LIST.text, columns: { strip: '', wer: 'name' }, header: 1 }],
    ]),
  );
  expect(bodies('POST /api/input-lists/columns')[0]).toEqual({ columns: { wer: 'name' } });
});

test('guesses are on the page, taken by the preview, and remembered with it', async () => {
  show();
  answer('POST /api/input-lists/columns', { done: true });
  answer('PUT /api/input-lists/file', {
    ...LIST,
    columns: [{ ...column('Plugs into', null), guess: 'socket' }, column('Title', 'name')],
  });
  const { user } = draw(<InputListDialog open onClose={close} />);
  await user.upload(screen.getByLabelText('Input list file'), new File(['x'], 'inputs.xlsx'));
  expect((await screen.findByRole('combobox', { name: 'Plugs into is' })).textContent).toBe('socket');
  expect(screen.getByText('guessed')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Preview patch…' }));
  await waitFor(() =>
    expect(looked()).toEqual([
      ['input_list', { text: LIST.text, columns: { 'plugs into': 'socket' }, header: 1 }],
    ]),
  );
  expect(bodies('POST /api/input-lists/columns')).toEqual([{ columns: { 'plugs into': 'socket' } }]);
});

test('another header row is chosen by one press', async () => {
  show();
  let line: string | null = null;
  answer('PUT /api/input-lists/file', (_body, url) => {
    line = url.searchParams.get('header');
    return { ...LIST, header: line === null ? 1 : 2, columns: [column('Wer?', null)] };
  });
  const { user } = draw(<InputListDialog open onClose={close} />);
  await user.upload(screen.getByLabelText('Input list file'), new File(['x'], 'inputs.csv'));
  await user.click(await screen.findByRole('radio', { name: '2: 1 · Tuba' }));
  await waitFor(() =>
    expect(screen.getByRole('radio', { name: '2: 1 · Tuba' }).getAttribute('aria-checked')).toBe('true'),
  );
  expect(line).toBe('2');
});
