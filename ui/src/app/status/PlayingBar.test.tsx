import { screen } from '@testing-library/react';
import { expect, test } from 'vitest';
import { answer, bodies } from '../../test/application';
import { tellLive } from '../../test/live';
import { draw } from '../../test/screen';
import { PlayingBar } from './PlayingBar';

const take = { number: 5, name: 'Harbour set', frames: 48000 * 90, from: 0, to: 48000 * 90, loop: false };

const plays = (playback: Record<string, unknown> | null) =>
  tellLive('state', { rate: 48000, recorder: { take_playback: playback } });

test('nothing plays, and nothing is there', () => {
  plays(null);
  draw(<PlayingBar />);
  expect(screen.queryByRole('region', { name: 'Playing' })).toBeNull();
});

test('the take that plays is told, and stopped', async () => {
  plays(take);
  answer('POST /api/take-playback/stop', {});
  const { user } = draw(<PlayingBar />);
  expect(screen.getByText('Playing take 5 Harbour set')).toBeTruthy();
  expect(screen.getByText(/^of 01:30/)).toBeTruthy();
  expect(screen.queryByText(/loop of|part/)).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Stop' }));
  expect(bodies('POST /api/take-playback/stop')).toHaveLength(1);
});

test('a part that is looped says which', () => {
  plays({ ...take, from: 48000 * 10, to: 48000 * 20, loop: true });
  draw(<PlayingBar />);
  expect(screen.getByText(/^loop of 00:10.* to 00:20/)).toBeTruthy();
});
