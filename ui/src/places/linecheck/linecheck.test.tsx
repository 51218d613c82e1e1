import { screen, waitFor, within } from '@testing-library/react';
import { expect, test } from 'vitest';
import type { RollLine } from '../../api/client';
import { stopLooking } from '../../api/preview';
import { PreviewDialog } from '../../app/dialogs/PreviewDialog';
import { answer, bodies } from '../../test/application';
import { draw, edited, previewOf, shown } from '../../test/screen';
import LineCheckPlace from './LineCheckPlace';

const line = (
  channel: number,
  name: string,
  verdict: RollLine['verdict'],
  more: Partial<RollLine> = {},
): RollLine => ({
  channel,
  name,
  dye: 'woad',
  socket: `A ${channel}`,
  meter: 'desk',
  at: [channel - 1],
  place: channel - 1,
  verdict,
  reason: 'a reason',
  advice: null,
  settings: {},
  also: [],
  loud: -20,
  peak: -8.2,
  floor: -61,
  clips: 0,
  gain: 20,
  heard: null,
  was: null,
  ...more,
});

const fiddle = line(4, 'Fiddle', 'low', {
  advice: 'Raise the preamp by 7 dB',
  settings: { 'channel/4/gain': 27 },
});
const drum = line(2, 'Drum', 'clipped', {
  clips: 3,
  advice: 'Lower the preamp by 10 dB',
  settings: { 'channel/2/gain': 10 },
});
const tuba = line(1, 'Tuba', 'good', { heard: { who: 'Ada', at: '2026-06-13T17:55:00+00:00' } });

const answerRoll = (...lines: RollLine[]) =>
  answer('GET /api/line-check', {
    alignment: -18,
    levels: [{ level: -18, standard: 'EBU R 68' }],
    ceiling: -6,
    tolerance: 3,
    version: 7,
    lines,
  });

function roll(...lines: RollLine[]) {
  shown();
  answerRoll(...lines);
  return draw(
    <>
      <LineCheckPlace />
      <PreviewDialog />
    </>,
  );
}

const names = () =>
  screen.getAllByRole('listitem').map((one) => within(one).getByText(/Fiddle|Drum|Tuba/).textContent);

test('lines stand by need, and in patch order when asked', async () => {
  const { user } = roll(drum, fiddle, tuba);
  await screen.findByText('Fiddle');
  expect(names()).toEqual(['Drum', 'Fiddle', 'Tuba']);
  await user.click(screen.getByRole('button', { name: 'Sort in patch order' }));
  await user.unhover(screen.getByRole('list'));
  expect(names()).toEqual(['Tuba', 'Drum', 'Fiddle']);
  expect(screen.getByText('peak −8.2 · noise floor −61.0 · 3 clips')).toBeTruthy();
});

test('a verdict can be looked at alone', async () => {
  const { user } = roll(drum, fiddle, tuba);
  await user.click(await screen.findByRole('button', { name: '1 low' }));
  expect(names()).toEqual(['Fiddle']);
  await user.click(screen.getByRole('button', { name: '1 low' }));
  expect(names()).toHaveLength(3);
});

test('one press does what is advised, and Enter on the line does, too', async () => {
  answer('POST /api/edits', edited(8));
  const { user } = roll(drum, fiddle, tuba);
  await user.click(await screen.findByRole('button', { name: 'Lower the preamp by 10 dB' }));
  screen.getByRole('listitem', { name: /^Drum/ }).focus();
  await user.keyboard('{ArrowDown}{Enter}');
  await waitFor(() => expect(bodies('POST /api/edits')).toHaveLength(2));
  expect(bodies('POST /api/edits').map((one) => [one['settings'], one['label']])).toEqual([
    [{ 'channel/2/gain': 10 }, 'Line check, Drum: Lower the preamp by 10 dB'],
    [{ 'channel/4/gain': 27 }, 'Line check, Fiddle: Raise the preamp by 7 dB'],
  ]);
});

test('all advice is looked at before it is taken', async () => {
  answer('POST /api/steps/preview', previewOf({ label: 'Line check, 2 sources' }));
  const { user } = roll(drum, fiddle, tuba);
  await user.click(await screen.findByRole('button', { name: 'Apply all advice…' }));
  expect(await screen.findByRole('dialog')).toBeTruthy();
  expect(bodies('POST /api/steps/preview')[0]).toEqual({
    kind: 'settings',
    options: { settings: { 'channel/2/gain': 10, 'channel/4/gain': 27 }, label: 'Line check, 2 sources' },
  });
  stopLooking();
});

test('48 V is switched with all the levels only when somebody chooses so', async () => {
  answer('POST /api/steps/preview', previewOf({ label: 'Line check' }));
  const quay = line(13, 'Quay amb', 'not heard yet', { settings: { 'channel/13/phantom': true } });
  const { user } = roll(drum, quay);
  await user.click(await screen.findByRole('button', { name: 'Apply all advice…' }));
  await user.click(await screen.findByRole('radio', { name: 'Levels and 48 V' }));
  await waitFor(() => expect(bodies('POST /api/steps/preview')).toHaveLength(2));
  expect(bodies('POST /api/steps/preview').map((one) => one['options'])).toEqual([
    { settings: { 'channel/2/gain': 10 }, label: 'Line check, 1 source' },
    { settings: { 'channel/2/gain': 10, 'channel/13/phantom': true }, label: 'Line check, 2 sources' },
  ]);
  stopLooking();
});

test('a source is ticked as heard, and tells who did and when', async () => {
  answer('POST /api/ticks', { done: true });
  const { user } = roll(fiddle, tuba);
  expect(await screen.findByText(/✓ checked \d\d:55 Ada/)).toBeTruthy();
  screen.getByRole('listitem', { name: /^Fiddle/ }).focus();
  await user.keyboard(' ');
  await waitFor(() => expect(bodies('POST /api/ticks')).toEqual([{ kind: 'heard', subject: '4', on: true }]));
});

test('lines do not jump while one of them is in focus', async () => {
  const { user } = roll(drum, fiddle);
  (await screen.findByRole('listitem', { name: /^Fiddle/ })).focus();
  answerRoll({ ...fiddle, verdict: 'hum' }, { ...drum, verdict: 'good' });
  expect(await screen.findByText('1 hum', {}, { timeout: 3000 })).toBeTruthy();
  expect(names()).toEqual(['Drum', 'Fiddle']);
  await user.click(document.body);
  await waitFor(() => expect(names()).toEqual(['Fiddle', 'Drum']));
});

test('says what changed since it was checked', async () => {
  const heard = { who: 'Ada', at: '2026-06-13T17:55:00+00:00' };
  roll(line(1, 'Tuba', 'silent', { heard, was: 'good' }), line(2, 'Drum', 'good', { heard }));
  const [changed] = await screen.findAllByText(/changed since it was checked/);
  expect(changed?.textContent).toMatch(/^changed since it was checked at \d\d:55: was good$/);
  expect(screen.getAllByText(/changed since it was checked/)).toHaveLength(1);
});
