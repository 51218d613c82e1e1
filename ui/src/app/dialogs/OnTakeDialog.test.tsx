import { screen, waitFor } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import { Refused } from '../../api/client';
import { mindingTake, type OnTake } from '../../api/ontake';
import { draw } from '../../test/screen';
import { OnTakeDialog } from './OnTakeDialog';

const refuse = new Refused({ error: { message: '31 channels are on take.', where: 'on_take' } }, 409);
const run = () =>
  vi.fn(async (choice?: OnTake) => {
    if (!choice) throw refuse;
    return choice;
  });

test.each([
  ['Return to stage first', 'stage'],
  ['Leave on take', 'keep'],
] as const)('asks what becomes of channels on take, and does it: %s', async (button, choice) => {
  const { user } = draw(<OnTakeDialog />);
  const asked = run();
  const done = mindingTake(asked);
  expect(await screen.findByText('31 channels are on take.')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: button }));
  expect(await done).toBe(choice);
  expect(asked.mock.calls).toEqual([[], [choice]]);
});

test('does nothing where somebody would rather not, and asks nothing where nothing is on take', async () => {
  const { user } = draw(<OnTakeDialog />);
  const asked = run();
  const done = mindingTake(asked);
  await user.click(await screen.findByRole('button', { name: 'Cancel' }));
  expect(await done).toBeUndefined();
  expect(asked).toHaveBeenCalledTimes(1);
  expect(await mindingTake(async () => 'done')).toBe('done');
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
});

test('leaves other refusals to whoever asked', async () => {
  const other = new Refused({ error: { message: 'No.', where: 'version' } }, 409);
  await expect(mindingTake(() => Promise.reject(other))).rejects.toBe(other);
  expect(other.stale).toBe(true);
  expect(refuse.stale).toBe(false);
});
