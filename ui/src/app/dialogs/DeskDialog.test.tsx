import { screen, waitFor } from '@testing-library/react';
import { beforeEach, expect, test } from 'vitest';
import { answer, asked, bodies, Refusal } from '../../test/application';
import { draw, edited, shown } from '../../test/screen';
import { DeskDialog } from './DeskDialog';

const apart = (path: string, plan: string, desk: string) => ({
  path,
  what: path,
  field: 'preamp gain',
  plan,
  desk,
});
const COPY = { id: 3, at: '2026-06-13T20:00:00Z', label: 'before the plan was sent', who: 'Ada' };
const STATE = { up: true, away: null, rig: [], copies: [], differences: [] };

beforeEach(() => {
  shown({ setup: { desk_follows: 'at once' } });
  answer('POST /api/desk/send', { problems: [], copy: 4 });
  answer('POST /api/desk/read', edited(8));
  answer('POST /api/edits', edited(8));
});

const open = () => draw(<DeskDialog open onClose={() => undefined} />);
const TWO = [apart('channel/1/gain', '20 dB', '22 dB'), apart('channel/2/gain', '30 dB', '33 dB')];

test('says when every setting is equal, and has nothing to send', async () => {
  answer('GET /api/desk', STATE);
  open();
  expect(await screen.findByText(/Desk in sync/)).toBeTruthy();
  expect(screen.queryByRole('button', { name: /Send/ })).toBeNull();
});

test('sends everything, or only what is ticked', async () => {
  answer('GET /api/desk', { ...STATE, differences: TWO });
  const { user } = open();
  await user.click(await screen.findByRole('button', { name: 'Send 2 settings to the desk' }));
  await user.click(screen.getByRole('checkbox', { name: 'Take channel/2/gain preamp gain' }));
  await user.click(screen.getByRole('button', { name: 'Send 1 setting to the desk' }));
  await waitFor(() =>
    expect(bodies('POST /api/desk/send')).toEqual([{ paths: null }, { paths: ['channel/1/gain'] }]),
  );
});

test('ticks all and none at once, and never offers to send nothing', async () => {
  answer('GET /api/desk', { ...STATE, differences: TWO });
  const { user } = open();
  await user.click(await screen.findByRole('button', { name: 'Select none' }));
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Send to the desk' }).disabled).toBe(true);
  expect(screen.getByText('0 of 2 settings ticked')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Select all' }));
  expect(screen.getByRole('button', { name: 'Send 2 settings to the desk' })).toBeTruthy();
});

test('reads what is ticked into the plan, against the version that is shown', async () => {
  answer('GET /api/desk', { ...STATE, differences: TWO });
  const { user } = open();
  await user.click(await screen.findByRole('checkbox', { name: 'Take channel/1/gain preamp gain' }));
  await user.click(screen.getByRole('button', { name: 'Read 1 setting from the desk into the plan' }));
  await waitFor(() =>
    expect(bodies('POST /api/desk/read')).toEqual([{ version: 7, paths: ['channel/2/gain'] }]),
  );
});

test('says when another desk is there, and lets a stand-in take the rig', async () => {
  answer('GET /api/desk', { ...STATE, away: 'The desk is the Rowan 16, and the plan is for the Alder 40.' });
  answer('POST /api/desk/stand-in', new Refusal(422, 'Only a stand-in desk can take on another rig.'));
  const { user } = open();
  expect(await screen.findByText(/The desk is the Rowan 16/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Load this rig into the simulated desk' }));
  await waitFor(() => expect(asked.map((one) => one.request)).toContain('POST /api/desk/stand-in'));
});

test('stays while the stand-in starts again, for the plan is sent next', async () => {
  answer('GET /api/desk', { ...STATE, away: 'The desk is the Rowan 16, and the plan is for the Alder 40.' });
  answer('POST /api/desk/stand-in', { ok: true });
  const { user } = open();
  await user.click(await screen.findByRole('button', { name: 'Load this rig into the simulated desk' }));
  answer('GET /api/desk', { ...STATE, differences: TWO });
  expect(
    await screen.findByRole('button', { name: 'Send 2 settings to the desk' }, { timeout: 5000 }),
  ).toBeTruthy();
});

test('tells which boxes the desk finds otherwise', async () => {
  answer('GET /api/desk', { ...STATE, rig: ['Port B: the plan has Bramble 32, the desk finds no box.'] });
  open();
  expect(await screen.findByText(/the desk finds no box/)).toBeTruthy();
});

test('restores a copy only after what that changes was seen', async () => {
  answer('GET /api/desk', { ...STATE, copies: [COPY] });
  answer('GET /api/desk/copies/3', [apart('channel/1/gain', '20 dB', '22 dB')]);
  answer('POST /api/desk/copies/3/restore', { problems: [], copy: 5 });
  const { user } = open();
  await user.click(await screen.findByRole('button', { name: 'Restore…' }));
  const row = await screen.findByRole('row', { name: /channel.1.gain/ });
  expect(row.textContent).toContain('22 dB20 dB'); // the desk now, then the copy
  await user.click(screen.getByRole('button', { name: 'Apply 1 setting to the desk' }));
  await waitFor(() => expect(bodies('POST /api/desk/copies/3/restore')).toHaveLength(1));
});

test('the desk can be told to wait until the plan is sent', async () => {
  answer('GET /api/desk', STATE);
  const { user } = open();
  await user.click(await screen.findByRole('checkbox'));
  await waitFor(() =>
    expect(bodies('POST /api/edits')).toMatchObject([{ settings: { 'setup/desk_follows': 'when sent' } }]),
  );
});
