import { screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { expect, test } from 'vitest';
import type { Show, Take } from '../../api/client';
import { refresh } from '../../api/queries';
import { answer, bodies } from '../../test/application';
import { draw } from '../../test/screen';
import { TakePlayer } from './TakePlayer';

const show = { id: 1, about: { name: 'Quay' } } as Show;
const take = (number: number, project: string) =>
  ({
    id: `id-${number}`,
    number,
    name: `Set ${number}`,
    project,
    state: 'complete',
    frames: 48000,
    rate: 48000,
  }) as Take;

function Chosen() {
  const [id, choose] = useState<string | null>(null);
  return <TakePlayer show={show} take={id} onTake={choose} />;
}

const chosen = async () => ((await screen.findByLabelText('Take to play')) as HTMLSelectElement).value;

function answering(...takes: Take[]) {
  answer('GET /api/takes', takes);
  for (const one of takes) answer(`GET /api/takes/${one.number}/waveform`, { peaks: [] });
  answer('POST /api/take-playback', {});
}

test('keeps its take whatever comes later, and plays that one', async () => {
  answering(take(2, 'Quay'), take(1, 'Quay'));
  const { user } = draw(<Chosen />);
  expect(await chosen()).toBe('id-2');
  answering(take(3, 'Quay'), take(2, 'Quay'), take(1, 'Quay'));
  await refresh('takes');
  await waitFor(() => expect(screen.getByRole('option', { name: 'Take 3 Set 3' })).toBeTruthy());
  expect(await chosen()).toBe('id-2');
  await user.click(screen.getByRole('button', { name: 'Play' }));
  await waitFor(() =>
    expect(bodies('POST /api/take-playback')).toEqual([
      { take: 'id-2', from: 0, to: null, loop: false, by_name: false },
    ]),
  );
});

test('marks a take of another show, and plays it by names only when somebody has seen which', async () => {
  answering(take(2, 'Harbour'), take(1, 'Quay'));
  answer('GET /api/takes/id-2/by-name', {
    other_show: true,
    project: 'Harbour',
    matched: [{ name: 'Tuba', outputs: [7] }],
    missing: ['Lyre'],
  });
  const { user } = draw(<Chosen />);
  expect(await chosen()).toBe('id-1');
  await user.selectOptions(screen.getByLabelText('Take to play'), 'id-2');
  expect(screen.getByText('Of another show: Harbour')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Play' }));
  expect(await screen.findByText('Tuba to card return 7')).toBeTruthy();
  expect(screen.getByText('Lyre')).toBeTruthy();
  expect(bodies('POST /api/take-playback')).toEqual([]);
  await user.click(screen.getByRole('button', { name: 'Play 1 track' }));
  await waitFor(() =>
    expect(bodies('POST /api/take-playback')).toEqual([
      { take: 'id-2', from: 0, to: null, loop: false, by_name: true },
    ]),
  );
});
