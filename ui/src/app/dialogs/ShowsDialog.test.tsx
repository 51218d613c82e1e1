import { screen, waitFor } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import { answer, asked, bodies, Refusal } from '../../test/application';
import { draw, shown } from '../../test/screen';
import { ShowsDialog } from './ShowsDialog';

const LIST = [
  { id: 2, version: 1, open: false, about: { name: 'Clean' }, created_at: '2026-06-13T20:00:00Z' },
  {
    id: 1,
    version: 7,
    open: true,
    about: { name: 'Late set', act: 'Nine' },
    created_at: '2026-06-12T20:00:00Z',
  },
];
const DESKS = [
  { id: 'alder-40', kind: 'desk', name: 'Alder 40', shipped: true, data: {} },
  { id: 'bramble-16', kind: 'box', name: 'Bramble 16', shipped: true, data: {} },
];
const close = vi.fn();

beforeEach(() => {
  close.mockClear();
  shown({ about: { name: 'Late set' } });
  answer('GET /api/shows', LIST);
  answer('GET /api/profiles', DESKS);
  answer('POST /api/shows', { id: 3 });
});

async function open() {
  const drawn = draw(<ShowsDialog open onClose={close} />);
  await screen.findByText('Clean');
  return drawn;
}

test('opens another show', async () => {
  answer('POST /api/shows/2/open', { done: true });
  const { user } = await open();
  await user.click(screen.getByRole('button', { name: 'Open' }));
  await waitFor(() => expect(close).toHaveBeenCalled());
});

test('deletes only when asked twice', async () => {
  answer('DELETE /api/shows/2', { done: true });
  const { user } = await open();
  await user.click(screen.getByRole('button', { name: 'Delete Clean' }));
  expect(asked.some((one) => one.request.startsWith('DELETE'))).toBe(false);
  await user.click(screen.getByRole('button', { name: 'Delete Clean for good' }));
  await waitFor(() => expect(asked.map((one) => one.request)).toContain('DELETE /api/shows/2'));
});

test('a new show starts from an empty desk or from another show', async () => {
  const { user } = await open();
  await user.click(screen.getByRole('button', { name: 'New show…' }));
  const make = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Create and open' });
  expect(make().disabled).toBe(true);
  await user.type(screen.getByRole('textbox', { name: 'Name of the show' }), 'Matinee');
  await user.click(screen.getByRole('combobox'));
  expect(screen.getAllByRole('option').map((one) => one.textContent)).toEqual([
    'an empty Alder 40',
    'everything as in Clean',
    'everything as in Late set',
  ]);
  await user.click(screen.getByRole('option', { name: 'everything as in Clean' }));
  await user.click(make());
  await waitFor(() =>
    expect(bodies('POST /api/shows')).toEqual([{ about: { name: 'Matinee' }, like: 2, open: true }]),
  );
});

test('a show file that is refused is told fault by fault', async () => {
  answer(
    'POST /api/shows',
    new Refusal(422, 'The show file has 1 fault.', [
      { where: '/settings/channel~11', message: 'no such desk' },
    ]),
  );
  const { user } = await open();
  await user.click(screen.getByRole('button', { name: 'New show…' }));
  await user.upload(
    screen.getByLabelText('Show file'),
    new File(['{"format":1}'], 'show.json', { type: 'application/json' }),
  );
  expect(await screen.findByText('/settings/channel~11')).toBeTruthy();
  expect(bodies('POST /api/shows')).toEqual([{ file: { format: 1 }, open: true }]);
  expect(close).not.toHaveBeenCalled();
});

test('words of the open show can be changed', async () => {
  answer('POST /api/shows/1/about', { done: true });
  const { user } = await open();
  await user.click(screen.getByRole('button', { name: 'Edit details…' }));
  await user.type(screen.getByRole('textbox', { name: 'Place' }), 'Quay');
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() =>
    expect(bodies('POST /api/shows/1/about')).toEqual([{ about: { name: 'Late set', place: 'Quay' } }]),
  );
});
