import { act, screen, waitFor, within } from '@testing-library/react';
import { beforeEach, expect, test } from 'vitest';
import { lookAt } from '../../api/preview';
import { answer, bodies, Refusal } from '../../test/application';
import { draw, edited, previewOf, shown } from '../../test/screen';
import { PreviewDialog } from './PreviewDialog';

const PREVIEW = 'POST /api/steps/preview';
beforeEach(() => {
  shown();
  answer('POST /api/edits', edited(8));
});

async function look(...[kind, options, more]: Parameters<typeof lookAt>) {
  const drawn = draw(<PreviewDialog />);
  await act(() => lookAt(kind, options, more));
  return drawn;
}

test('tells what breaks, what would be wrong, what is mended, and each setting in words', async () => {
  answer(
    PREVIEW,
    previewOf({
      label: 'Remove Box B',
      losses: [{ name: 'Viola', channel: 'desk/ch/21', lost: ['its socket', 'its track'] }],
      notes: ['Fiddle takes a free slot; 3 left.'],
      findings_new: ['Viola hears no socket.'],
      findings_gone: ['Box B is not connected to a link.'],
      problems: [
        { where: 'line 4', message: '"Z 99" is not a socket', group: '1 row asks for a socket' },
        { where: 'rig/x', message: 'skipped', group: null },
      ],
    }),
  );
  await look('remove_box', { box: 'b' });
  expect(screen.getByText('Remove Box B')).toBeTruthy();
  for (const line of [
    'This breaks a strand',
    'Viola loses its socket and its track',
    'Fiddle takes a free slot; 3 left.',
    'Viola hears no socket.',
    'Box B is not connected to a link.',
    '1 row asks for a socket',
    'line 4: "Z 99" is not a socket',
    'Not accepted',
    'rig/x: skipped',
  ])
    expect(screen.getByText(line)).toBeTruthy();
  const row = screen.getByRole('row', { name: /Channel 1/ });
  expect(
    within(row)
      .getAllByRole('cell')
      .map((cell) => cell.textContent),
  ).toEqual(['Channel 1', 'name', 'none', 'Tuba']);
});

test('sets what it showed, closes, and says so to who asked', async () => {
  let done = 0;
  answer(PREVIEW, previewOf());
  const { user } = await look('main_mix', {}, { onDone: () => (done += 1) });
  await user.click(screen.getByRole('button', { name: 'Apply 1 change' }));
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  expect(bodies('POST /api/edits')).toMatchObject([{ version: 7, settings: { 'channel/1/name': 'Tuba' } }]);
  expect(done).toBe(1);
});

test('stays open when it is refused', async () => {
  answer(PREVIEW, previewOf());
  answer('POST /api/edits', new Refusal(409, 'changed'));
  const { user } = await look('main_mix');
  await user.click(screen.getByRole('button', { name: 'Apply 1 change' }));
  await waitFor(() => expect(bodies('POST /api/edits')).toHaveLength(1));
  expect(screen.getByRole('dialog')).toBeTruthy();
});

test('shows what it would do now when somebody else was first, and takes that by the same key', async () => {
  let label = 'Remove Box B';
  answer(PREVIEW, () => previewOf({ label }));
  let first = true;
  answer('POST /api/edits', () => {
    if (!first) return edited(9);
    first = false;
    return new Refusal(409, 'Ada has changed Channel 4.');
  });
  const { user } = await look('main_mix');
  label = 'Remove Box B, now with Viola';
  await user.keyboard('{Enter}');
  expect((await screen.findByRole('alert')).textContent).toContain('Ada has changed Channel 4.');
  expect(screen.getByText('Remove Box B, now with Viola')).toBeTruthy();
  await user.keyboard('{Enter}');
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
  expect(bodies('POST /api/edits')).toHaveLength(2);
});

test('takes only the inputs that are ticked', async () => {
  answer(PREVIEW, (body) =>
    previewOf({
      parts: [
        { title: 'Tuba', kind: 'changed', note: null },
        { title: 'Viola', kind: 'renamed', note: 'channel 4, was Fiddle' },
        { title: 'Harp', kind: 'removed', note: 'channel 9' },
      ],
      label: JSON.stringify((body as { options: { only?: string[] } }).options.only),
    }),
  );
  const { user } = await look('auto_patch');
  expect(screen.getByText('2 of 2 inputs selected')).toBeTruthy();
  await user.click(screen.getByRole('checkbox', { name: 'Tuba' }));
  expect(await screen.findByText('["Viola"]')).toBeTruthy();
  await user.click(screen.getByText('1 channel in use but not on the list: tick to remove'));
  await user.click(screen.getByRole('checkbox', { name: 'Harp channel 9' }));
  expect(await screen.findByText('["Viola","Harp"]')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'None' }));
  expect(await screen.findByText('["Harp"]')).toBeTruthy();
  expect(screen.getByText('0 of 2 inputs selected')).toBeTruthy();
});

test('gives the room of an input that is not ticked to one that is', async () => {
  answer(PREVIEW, (body) => {
    const only = (body as { options: { only?: string[] } }).options.only;
    const harp = only?.includes('Harp') && !only.includes('Tuba');
    return previewOf({
      parts: [
        { title: 'Tuba', kind: harp ? 'left out' : 'changed', note: null },
        { title: 'Harp', kind: harp ? 'changed' : 'left out', note: null },
      ],
      label: JSON.stringify(only),
    });
  });
  const { user } = await look('input_list');
  expect(screen.getByText('1 of 1 input selected')).toBeTruthy();
  const room = () => screen.getByText(/1 input without a channel/).closest('fieldset') as HTMLElement;
  expect(within(room()).getByRole<HTMLInputElement>('checkbox', { name: 'Harp' }).checked).toBe(false);
  await user.click(screen.getByRole('checkbox', { name: 'Harp' }));
  expect(await screen.findByText('["Tuba","Harp"]')).toBeTruthy();
  await user.click(screen.getByRole('checkbox', { name: 'Tuba' }));
  expect(await screen.findByText('["Harp"]')).toBeTruthy();
  expect(within(room()).getByRole<HTMLInputElement>('checkbox', { name: 'Tuba' }).checked).toBe(false);
});

test('offers another way, and marks the one that is looked at', async () => {
  const ways = [
    { label: 'Use a free slot', options: { moving: 'slot' } },
    { label: 'Move the whole block', options: { moving: 'block' } },
  ];
  answer(PREVIEW, previewOf());
  const { user } = await look('settings', { settings: {}, moving: 'slot' }, { ways });
  const chosen = () => screen.getAllByRole('radio').map((one) => one.getAttribute('aria-checked'));
  expect(chosen()).toEqual(['true', 'false']);
  await user.click(screen.getByRole('radio', { name: 'Move the whole block' }));
  await waitFor(() => expect(chosen()).toEqual(['false', 'true']));
  expect(bodies(PREVIEW).at(-1)).toEqual({ kind: 'settings', options: { settings: {}, moving: 'block' } });
});

test('has nothing to make where nothing would change', async () => {
  answer(PREVIEW, previewOf({ changes: [], settings: {} }));
  await look('auto_patch');
  expect(screen.getByText('Nothing to change; it is already set this way.')).toBeTruthy();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Apply 0 changes' }).disabled).toBe(true);
});
