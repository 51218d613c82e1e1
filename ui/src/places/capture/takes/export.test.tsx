import { screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import type { Take } from '../../../api/client';
import { answer, bodies } from '../../../test/application';
import { draw } from '../../../test/screen';
import { ExportPanel } from './ExportPanel';

const take = { id: 't1', number: 4, rate: 48000, markers: [], tracks: [] } as unknown as Take;
const job = {
  id: 'j1',
  kind: 'export',
  number: 4,
  name: '0004 Set',
  form: 'folder',
  state: 'done',
  done: 1,
  total: 1,
  error: null,
  made_at: '2026-11-27T09:00:00Z',
  who: null,
  result: '/media/usb/0004 Set',
  place: '/media/usb',
};

const marked = {
  ...take,
  frames: 960_000,
  markers: [
    { at: 480_000, frames: 0, name: 'Waltz' },
    { at: 240_000, frames: 0, name: 'Reel' },
  ],
} as unknown as Take;

function panel(of: Take = take) {
  answer('GET /api/exports', [job]);
  answer('GET /api/export-places', [{ folder: '/media/usb', name: 'usb', free_bytes: 58e9 }]);
  answer('POST /api/exports', job);
  return draw(<ExportPanel take={of} chosen={null} />);
}
const to = async (user: ReturnType<typeof draw>['user'], option: RegExp) => {
  await user.click(screen.getByRole('combobox', { name: 'To' }));
  await user.click(await screen.findByRole('option', { name: option }));
};

test('an export goes to a disk that is plugged in, or to a folder that is named', async () => {
  const { user } = panel();
  await to(user, /usb, .* free/);
  await user.click(screen.getByRole('button', { name: 'Export' }));
  await waitFor(() => expect(bodies('POST /api/exports')).toMatchObject([{ folder: '/media/usb' }]));
  await to(user, /a folder/);
  expect(screen.getByRole('button', { name: 'Export' })).toHaveProperty('disabled', true);
  await user.type(screen.getByLabelText('Folder on the recording computer'), '/srv/shows');
  await user.click(screen.getByRole('button', { name: 'Export' }));
  await waitFor(() => expect(bodies('POST /api/exports')[1]).toMatchObject({ folder: '/srv/shows' }));
});

test('what lies on somebody’s disk is told by its place, and only taken off the list', async () => {
  answer('DELETE /api/exports/j1', { done: true });
  const { user } = panel();
  expect(await screen.findByText('/media/usb/0004 Set')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Remove 0004 Set from this list' }));
  await waitFor(() => expect(bodies('DELETE /api/exports/j1')).toHaveLength(1));
});

test('exports from marker to marker, in the form of sound that is wanted', async () => {
  const { user } = panel(marked);
  const pick = async (field: string, option: string) => {
    await user.click(screen.getByRole('combobox', { name: field }));
    await user.click(await screen.findByRole('option', { name: option }));
  };
  await pick('Part', 'from marker to marker');
  await pick('Sound', 'FLAC');
  await user.click(screen.getByRole('button', { name: 'Export' }));
  await waitFor(() =>
    expect(bodies('POST /api/exports')[0]).toMatchObject({
      from: 240_000,
      to: 480_000,
      part: 'Reel to Waltz',
      sound: 'flac',
    }),
  );
  await pick('From', 'Waltz, 00:10.0');
  await user.click(screen.getByRole('button', { name: 'Export' }));
  await waitFor(() =>
    expect(bodies('POST /api/exports')[1]).toMatchObject({
      from: 480_000,
      to: 960_000,
      part: 'Waltz to the end',
    }),
  );
});
