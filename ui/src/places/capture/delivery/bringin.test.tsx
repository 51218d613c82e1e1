import { screen, waitFor, within } from '@testing-library/react';
import { expect, test } from 'vitest';
import type { DeliveryPlan } from '../../../api/client';
import { answer, asked } from '../../../test/application';
import { draw } from '../../../test/screen';
import { BringInDialog } from './BringInDialog';

const item = (name: string, track: number | null) => ({
  pieces: [[{ file: `/d/${name}.wav`, name: `${name}.wav`, lane: null, lanes: 1 }]],
  title: name,
  key: name.replace(/ \d+$/, ''),
  track,
  score: 1,
  lanes: 1,
  rate: 48000,
  codec: 'flac',
  offset: 0,
  length_s: 1,
  notes: [],
  warnings: [],
});
const plan = (items: DeliveryPlan['items']): DeliveryPlan => ({
  items,
  problems: [],
  tracks: [{ number: 13, title: 'Cymbals' }],
  rate: 48000,
});

async function look() {
  answer('POST /api/deliveries', { id: 'd1' });
  answer('PUT /api/deliveries/d1/files/a.wav', { done: true });
  answer('POST /api/deliveries/look', { look: 'l1' });
  answer('GET /api/deliveries/looks/l1', {
    state: 'done',
    seen: 2,
    error: null,
    plan: plan([item('Cymbals L', 13), item('Cymbals R', null)]),
  });
  answer('DELETE /api/deliveries/d1', { done: true });
  const drawn = draw(<BringInDialog onClose={() => undefined} />);
  await drawn.user.upload(screen.getByLabelText('Files to import'), new File(['RIFF'], 'a.wav'));
  await screen.findByText('Cymbals L.wav');
  return drawn;
}

test('two recordings are joined as left and right, and what is then to be said is asked for', async () => {
  const { user } = await look();
  const joined = item('Cymbals', 13);
  answer(
    'POST /api/deliveries/looks/l1/arrange',
    plan([{ ...joined, warnings: ['Left and right of Cymbals differ in length by 1.00 s.'] }]),
  );
  await user.click(screen.getByRole('button', { name: 'Arrange Cymbals L' }));
  await user.click(await screen.findByText('Join with another…'));
  const dialog = await screen.findByRole('dialog', { name: /Join Cymbals L/ });
  await user.click(within(dialog).getByLabelText('pair as right channel'));
  await user.click(within(dialog).getByRole('button', { name: 'Join' }));
  expect(await screen.findByText(/differ in length/)).toBeTruthy();
  expect(asked.find((one) => one.request.endsWith('/arrange'))?.body).toEqual({
    items: [
      {
        pieces: [
          [
            { file: '/d/Cymbals L.wav', lane: null },
            { file: '/d/Cymbals R.wav', lane: null },
          ],
        ],
        track: 13,
        offset: 0,
      },
    ],
  });
});

test('a recording is moved in time by typing', async () => {
  const { user } = await look();
  expect(screen.getAllByRole('img', { name: 'Lies at 00:00.0 to 00:01.0' })).toHaveLength(2);
  answer('POST /api/deliveries/looks/l1/arrange', plan([item('Cymbals L', 13), item('Cymbals R', null)]));
  const begin = screen.getByLabelText('Start of Cymbals R');
  await user.clear(begin);
  await user.type(begin, '1,5{Enter}');
  await waitFor(() =>
    expect(asked.find((one) => one.request.endsWith('/arrange'))?.body).toMatchObject({
      items: [{ offset: 0 }, { offset: 72000 }],
    }),
  );
});

test('what was sent and is given up is cleared away', async () => {
  const { user, again } = await look();
  await user.click(screen.getByRole('button', { name: 'Back' }));
  const cleared = () => asked.filter((one) => one.request === 'DELETE /api/deliveries/d1').length;
  await waitFor(() => expect(cleared()).toBeGreaterThan(0));
  const before = cleared();
  again(<p>gone</p>);
  expect(cleared()).toBe(before);
});

test('ticks many at once: all, none, those without a track, or the first of each name alone', async () => {
  const { user } = await look();
  const ticked = () => screen.getAllByRole<HTMLInputElement>('checkbox').map((box) => box.checked);
  await user.click(screen.getByRole('button', { name: 'Untick 1 without a track' }));
  expect(ticked()).toEqual([true, false]);
  await user.click(screen.getByRole('button', { name: 'Tick 1 without a track' }));
  await user.click(screen.getByRole('button', { name: 'Untick all' }));
  expect(ticked()).toEqual([false, false]);
  await user.click(screen.getByRole('button', { name: 'Tick all' }));
  expect(ticked()).toEqual([true, true]);
});
