import Dialog from '@mui/material/Dialog';
import { act, screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import { tell } from '../../api/notices';
import { draw } from '../../test/screen';
import { Notices } from './Notices';

const around = (open: boolean) => (
  <>
    <button type="button">Behind</button>
    <Notices />
    <Dialog open={open} transitionDuration={0}>
      <button type="button">Inside</button>
    </Dialog>
  </>
);

test('a notice is announced and reached by keyboard while a dialog is open', async () => {
  let again = 0;
  const { user } = draw(around(true));
  act(() =>
    tell({
      kind: 'error',
      text: 'Ada was first.',
      action: { label: 'Apply again', run: () => (again += 1) },
    }),
  );
  // What is hidden behind the dialog has no role for those who hear.
  expect((await screen.findByRole('alert')).textContent).toContain('Ada was first.');
  expect(screen.queryByRole('button', { name: 'Behind' })).toBeNull();
  screen.getByRole('button', { name: 'Inside' }).focus();
  await user.tab();
  expect(document.activeElement?.textContent).toBe('Apply again');
  await user.keyboard('{Enter}');
  expect(again).toBe(1);
});

test('a notice stays when the dialog is closed', async () => {
  const { again } = draw(around(true));
  act(() => tell({ kind: 'info', text: 'Left out: readme.txt' }));
  await screen.findByRole('alert');
  again(around(false));
  expect(await screen.findByRole('button', { name: 'Behind' })).toBeTruthy();
  expect((await screen.findByRole('alert')).textContent).toContain('Left out: readme.txt');
  act(() => tell(null));
});

test('the page makes room for a notice while it is there, but not for one inside a dialog', async () => {
  const room = () => document.documentElement.hasAttribute('data-notice');
  const { again } = draw(around(false));
  act(() => tell({ kind: 'info', text: 'Saved.' }));
  await screen.findByRole('alert');
  expect(room()).toBe(true);
  again(around(true));
  await screen.findByRole('button', { name: 'Inside' });
  await vi.waitFor(() => expect(room()).toBe(false));
  again(around(false));
  await vi.waitFor(() => expect(room()).toBe(true));
  act(() => tell(null));
  expect(room()).toBe(false);
});
