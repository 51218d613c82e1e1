import { screen, waitFor } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import { answer, bodies, Refusal } from '../../../test/application';
import { port, showOf } from '../../../test/pieces';
import { draw, edited, shown } from '../../../test/screen';
import { BulkEditor } from './BulkEditor';
import type { Rail } from '../sheet/layout';

const close = vi.fn();
const sent = () => bodies('POST /api/edits').map((body) => body['settings']);

beforeEach(() => {
  close.mockClear();
  shown();
  answer('POST /api/edits', edited(8));
  answer('POST /api/steps', edited(8));
  answer('GET /api/outputs', { buses: [{ number: 9, name: 'Choir', mode: 'subgroup' }] });
});

function range(rail: Rail) {
  const ports = [2, 3].map((row) => port(rail, row));
  const show = showOf({
    profile: { stage_block: 1, take_block: 1, dyes: ['woad'], taps: [{ id: 'post-eq', label: 'post-EQ' }] },
    channels: Array.from({ length: 4 }, (_, i) => ({ number: i + 1, groups: i === 3 ? [9] : [] })),
    sheet: { ports: [port('socket', 0), port('socket', 1)] },
    sends: [],
    tracks: [],
  });
  return draw(<BulkEditor ports={ports} cell={document.body} show={show} onClose={close} />);
}

test('names a range from one name, and closes when it is done', async () => {
  const { user } = range('channel');
  await user.type(screen.getByRole('textbox', { name: /Names/ }), 'Voice{Enter}');
  await waitFor(() => expect(sent()).toEqual([{ 'channel/3/name': 'Voice 1', 'channel/4/name': 'Voice 2' }]));
  await waitFor(() => expect(close).toHaveBeenCalled());
  expect(bodies('POST /api/edits')[0]?.['label']).toBe('Names of Channel 3 to 4');
});

test.each([
  ['channel', '48 V on', { 'channel/3/phantom': true, 'channel/4/phantom': true }],
  ['channel', 'Unlock', { 'channel/3/fixed': false, 'channel/4/fixed': false }],
  ['track', 'Disarm', { 'track/3/armed': false, 'track/4/armed': false }],
  [
    'track',
    'Inherit names',
    { 'track/3/name': '', 'track/4/name': '', 'track/3/colour': null, 'track/4/colour': null },
  ],
  ['send', 'Empty all', { 'send/3/source': null, 'send/4/source': null }],
] as const)('of a range of %ss, %s', async (rail, button, settings) => {
  const { user } = range(rail);
  await user.click(screen.getByRole('button', { name: button }));
  await waitFor(() => expect(sent()).toEqual([settings]));
});

test('sets one tap for all, or that of the show', async () => {
  const { user } = range('send');
  await user.click(screen.getByRole('combobox'));
  await user.click(await screen.findByRole('option', { name: 'post-EQ' }));
  await waitFor(() => expect(sent()).toEqual([{ 'send/3/tap': 'post-eq', 'send/4/tap': 'post-eq' }]));
});

test('stays open when it is refused', async () => {
  answer('POST /api/edits', new Refusal(422, 'The preamp goes to 60 dB.'));
  const { user } = range('channel');
  await user.type(screen.getByRole('textbox', { name: /gain/ }), '99{Enter}');
  await waitFor(() => expect(sent()).toHaveLength(1));
  expect(close).not.toHaveBeenCalled();
});

test('tracks play to returns one behind the other, or share one on purpose', async () => {
  answer('POST /api/steps', edited(8));
  const { user } = range('track');
  await user.type(screen.getByRole('textbox', { name: 'Play to card returns, from' }), '9{Enter}');
  await user.type(screen.getByRole('textbox', { name: 'All share card return' }), '31{Enter}');
  await waitFor(() =>
    expect(bodies('POST /api/steps')).toMatchObject([
      { kind: 'play_to', options: { tracks: [3, 4], first: 9, shared: false } },
      { kind: 'play_to', options: { tracks: [3, 4], first: 31, shared: true } },
    ]),
  );
});

test.each([
  ['On main', { main: true }],
  ['Invert polarity', { polarity: true }],
] as const)('mixes a range of channels: %s', async (button, options) => {
  const { user } = range('channel');
  await user.click(screen.getByRole('button', { name: button }));
  await waitFor(() =>
    expect(bodies('POST /api/steps')).toMatchObject([
      { kind: 'mix_range', options: { channels: [3, 4], ...options } },
    ]),
  );
});

test.each([
  ['Send taps', 'post-EQ', 'POST /api/steps', { tap: 'post-eq' }],
  ['Subgroup', 'into a new subgroup', 'POST /api/steps/preview', { subgroup: 0, within: true }],
  ['Subgroup', 'into 9 Choir', 'POST /api/steps/preview', { subgroup: 9, within: true }],
  ['Subgroup', 'out of 9 Choir', 'POST /api/steps/preview', { subgroup: 9, within: false }],
] as const)('offers by %s: %s', async (list, option, route, options) => {
  answer('POST /api/steps/preview', {});
  const { user } = range('channel');
  await user.click(screen.getByRole('combobox', { name: list }));
  await user.click(await screen.findByRole('option', { name: option }));
  await waitFor(() =>
    expect(bodies(route)).toMatchObject([{ kind: 'mix_range', options: { channels: [3, 4], ...options } }]),
  );
});

test.each([
  ['channel', 'Returns from', '9', { column: 'return', first: 3, start: 9 }],
  ['send', 'Carry channels in order, from', '7', { column: 'send', first: 3, start: 'desk/ch/7' }],
  ['track', 'Record card sends in order, from', '5', { column: 'track_input', first: 3, start: 5 }],
  ['socket', 'To channels in order, from', '11', { column: 'socket', first: 11, start: 'socket/3' }],
  ['return', 'Take source of channels in order, from', '11', { column: 'return', first: 11, start: 3 }],
] as const)('a range of %ss gets its sources in order', async (rail, label, typed, options) => {
  answer('POST /api/steps/preview', { changes: [], losses: [] });
  const { user } = range(rail);
  await user.type(screen.getByRole('textbox', { name: label }), `${typed}{Enter}`);
  await waitFor(() =>
    expect(bodies('POST /api/steps/preview')).toMatchObject([
      { kind: 'run_straight', options: { count: 2, ...options } },
    ]),
  );
});

test.each(['send', 'return'] as const)(
  'moves a range of %ss with all that refers to it, after a preview',
  async (rail) => {
    answer('POST /api/steps/preview', {});
    const { user } = range(rail);
    await user.type(
      screen.getByRole('textbox', { name: `Move card ${rail}s 3 to 4 to card ${rail}` }),
      '9{Enter}',
    );
    await waitFor(() =>
      expect(bodies('POST /api/steps/preview')).toMatchObject([
        { kind: 'move_lanes', options: { way: rail, from: 3, count: 2, to: 9 } },
      ]),
    );
  },
);
