import { screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import type { Outputs } from '../../../api/client';
import { answer, bodies } from '../../../test/application';
import { draw } from '../../../test/screen';
import { SendLevels, typedLevel } from './SendLevels';

const bus = (number: number, name: string, more = {}) => ({
  number,
  name,
  mode: 'mix',
  right_of: null,
  paired: false,
  ...more,
});
const outputs = {
  buses: [
    bus(1, 'Ear Ada'),
    bus(3, 'Brass', { mode: 'subgroup' }),
    bus(5, 'Wedge', { paired: true }),
    bus(6, '', { right_of: 5 }),
  ],
} as unknown as Outputs;
const send = (channel: number, title: string, db: number | null) => ({
  channel,
  title,
  dye: 'woad',
  name: `channel/${channel}/send/1`,
  db,
  off: db === -90,
  tap: 'pre-fader',
  tap_label: 'pre-fader',
  muted: channel === 2,
});

function page(from: 'desk' | null = 'desk') {
  answer('GET /api/levels/sends', {
    bus: 1,
    title: 'Bus 1',
    levels: { from, sheet: null, name: null, at: null },
    sends: [send(1, 'Fiddle', -9), send(2, 'Click', -90), send(3, 'Tuba', 10)],
  });
  answer('POST /api/levels', { problems: [] });
  return draw(<SendLevels outputs={outputs} bus={1} onBus={() => undefined} />);
}
const set = () => bodies('POST /api/levels').map((body) => body['values']);
const level = (title: string) => screen.findByLabelText<HTMLInputElement>(`Level of ${title}`);

test('is gone through, typed into and stepped by keyboard alone', async () => {
  const { user } = page();
  (await level('Fiddle')).focus();
  await user.keyboard('-12,5{Enter}');
  await waitFor(() => expect(set()).toEqual([{ 'channel/1/send/1': -12.5 }]));
  await user.keyboard('{ArrowDown}');
  expect(document.activeElement).toBe(await level('Click'));
  await user.keyboard('{PageUp}');
  await waitFor(() => expect(set()[1]).toEqual({ 'channel/2/send/1': -89 }));
  await user.keyboard('{ArrowDown}{PageUp}');
  await waitFor(() => expect(set()[2]).toEqual({ 'channel/3/send/1': 10 }));
  await user.keyboard('{ArrowUp}{ArrowUp}loud{Enter}');
  expect((await level('Fiddle')).getAttribute('aria-invalid')).toBe('true');
  await user.keyboard('{Escape}');
  expect((await level('Fiddle')).value).toBe('−9.0');
  expect((await level('Click')).value).toBe('off');
  expect(set()).toHaveLength(3);
});

test('sets nothing while the desk is away', async () => {
  page(null);
  expect((await level('Fiddle')).disabled).toBe(true);
  expect(screen.getByText(/The desk does not answer/)).toBeTruthy();
});

test('reads a level as people type it', () => {
  expect(['-6', '−6,5', 'off', ' 3 ', '', 'x', '11', '-91'].map(typedLevel)).toEqual([
    -6,
    -6.5,
    -90,
    3,
    null,
    null,
    null,
    null,
  ]);
});
