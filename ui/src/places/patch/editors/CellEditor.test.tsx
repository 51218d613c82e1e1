import { screen, waitFor } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import type { Port } from '../../../api/client';
import { answer, bodies } from '../../../test/application';
import { port } from '../../../test/pieces';
import { draw, edited, shown } from '../../../test/screen';
import { CellEditor } from './CellEditor';

const CHANNEL = {
  number: 1,
  name: 'Tuba',
  short: 'Tb',
  mic: 'dynamic',
  stand: '',
  gain: 18,
  trim: 0,
  trims: false,
  same_preamp: [] as number[],
  spot: null,
  phantom: false,
  fixed: false,
  colour: 'iron',
};
const TRACK = {
  number: 1,
  name: '',
  title: 'Tuba',
  shares: '',
  armed: true,
  stereo: false,
  colour: 'woad',
  inputs: [1],
  outputs: [1],
};
const close = vi.fn();
const sent = () => bodies('POST /api/edits').map((body) => body['settings']);

beforeEach(() => {
  close.mockClear();
  answer('POST /api/edits', edited(8));
  answer('GET /api/choices', [
    { label: 'Card send 1', settings: { 'track/1/inputs': [1] }, current: true, missing: null, marks: ['1'] },
    {
      label: 'Card send 5',
      settings: { 'track/1/inputs': [5] },
      current: false,
      missing: null,
      marks: ['5'],
    },
  ]);
});

function open(at: Port, typed = '', channels = [CHANNEL]) {
  const show = shown({
    channels,
    tracks: [TRACK],
    profile: { stage_block: 1, take_block: 1, dyes: ['iron', 'woad'], taps: [] },
  });
  return draw(<CellEditor port={at} cell={document.body} typed={typed} show={show} onClose={close} />);
}

test('the first field sets the cell and closes', async () => {
  const { user } = open(port('track', 0), '5');
  await waitFor(() => expect(screen.getAllByRole('option')).toHaveLength(1));
  await user.keyboard('{Enter}');
  await waitFor(() => expect(sent()).toEqual([{ 'track/1/inputs': [5] }]));
  expect(close).toHaveBeenCalled();
});

test('everything of a channel can be set, one by one', async () => {
  const { user } = open(port('channel', 0));
  await user.type(screen.getByRole('textbox', { name: 'Stand' }), 'tall boom{Enter}');
  await user.click(screen.getByRole('switch', { name: '48 V' }));
  await user.click(screen.getByRole('switch', { name: 'Locked for auto-patch' }));
  await user.click(screen.getByRole('radio', { name: 'woad' }));
  await waitFor(() =>
    expect(sent()).toEqual([
      { 'channel/1/stand': 'tall boom' },
      { 'channel/1/phantom': true },
      { 'channel/1/fixed': true },
      { 'channel/1/colour': 'woad' },
    ]),
  );
  expect(close).not.toHaveBeenCalled();
});

test('a track gives up its lanes with its width, and its dye to its source', async () => {
  const { user } = open(port('track', 0));
  expect(screen.getByRole('textbox', { name: 'Name' }).getAttribute('placeholder')).toBe('Tuba');
  await user.click(screen.getByRole('switch', { name: 'Stereo' }));
  await user.click(screen.getByRole('button', { name: 'Use the dye of its source' }));
  await waitFor(() =>
    expect(sent()).toEqual([
      { 'track/1/stereo': true, 'track/1/inputs': [], 'track/1/outputs': [] },
      { 'track/1/colour': null },
    ]),
  );
});

test('says why a socket is missing', () => {
  open(port('socket', 0, { missing: 'no box on port A reaches lane 40' }));
  expect(screen.getByText('Missing: no box on port A reaches lane 40.')).toBeTruthy();
});

test('a preamp that another channel has as well is told, and the trim is its own', async () => {
  const ears = { ...CHANNEL, number: 11, name: 'Tuba ears' };
  const { user } = open(port('channel', 0), '', [{ ...CHANNEL, trims: true, same_preamp: [11] }, ears]);
  expect(screen.getByText(/its socket with channel 11 Tuba ears: gain and 48 V are common/)).toBeTruthy();
  await user.type(screen.getByRole('textbox', { name: 'Trim (dB)' }), '{Control>}a{/Control}-3{Enter}');
  await waitFor(() => expect(sent()).toEqual([{ 'channel/1/trim': -3 }]));
});
