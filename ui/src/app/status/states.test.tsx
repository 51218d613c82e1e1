import { useQuery } from '@tanstack/react-query';
import { screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import { api, taken } from '../../api/client';
import { askAgain, queries } from '../../api/queries';
import { answer, Refusal } from '../../test/application';
import { tellLive } from '../../test/live';
import { draw } from '../../test/screen';
import { QueryState } from './QueryState';
import { Away } from './Away';
import { Boundary } from '../shell/Boundary';

function Bin() {
  const bin = useQuery({ queryKey: ['bin'], queryFn: () => taken(api.GET('/api/bin')) });
  return (
    <QueryState of={bin} waiting="Reading the bin …">
      {(takes) => <p>{takes.length} takes</p>}
    </QueryState>
  );
}

test('what is awaited says so, and is there once it is answered', async () => {
  let give: (takes: object[]) => void = () => undefined;
  const late = new Promise<object[]>((done) => {
    give = done;
  });
  answer('GET /api/bin', () => late);
  draw(<Bin />);
  expect(screen.getByRole('status').textContent).toContain('Reading the bin …');
  give([{}, {}]);
  expect(await screen.findByText('2 takes')).toBeTruthy();
  expect(screen.queryByRole('status')).toBeNull();
});

test('what was refused says why, and is asked again', async () => {
  answer('GET /api/bin', new Refusal(422, 'The bin is elsewhere.'));
  const { user } = draw(<Bin />);
  expect((await screen.findByRole('alert')).textContent).toContain('The bin is elsewhere.');
  answer('GET /api/bin', [{}]);
  await user.click(screen.getByRole('button', { name: 'Try again' }));
  expect(await screen.findByText('1 takes')).toBeTruthy();
});

test('what was answered before stays, and is called old', async () => {
  answer('GET /api/bin', [{}]);
  draw(<Bin />);
  await screen.findByText('1 takes');
  answer('GET /api/bin', new Refusal(422, 'The disk is away.'));
  await queries.invalidateQueries({ queryKey: ['bin'] });
  expect((await screen.findByText(/This may be out of date/)).textContent).toContain('The disk is away.');
  expect(screen.getByText('1 takes')).toBeTruthy();
  answer('GET /api/bin', []);
  askAgain();
  expect(await screen.findByText('0 takes')).toBeTruthy();
  expect(screen.queryByText(/may be old/)).toBeNull();
});

test('a place says which part it lives on is away', () => {
  tellLive('state', { desk: { up: false }, recorder: { up: true } });
  draw(<Away of={['desk', 'recorder']} />);
  expect(screen.getAllByRole('status').map((one) => one.textContent)).toEqual([
    expect.stringContaining('Desk offline'),
  ]);
});

test('a part that ends in a defect leaves what is around it, and is shown again when asked', async () => {
  const silent = vi.spyOn(console, 'error').mockImplementation(() => undefined);
  let broken = true;
  const Part = () => {
    if (broken) throw new Error('no such figure');
    return <p>the part</p>;
  };
  const { user } = draw(
    <>
      <p>around it</p>
      <Boundary what="Rig">
        <Part />
      </Boundary>
    </>,
  );
  expect(screen.getByRole('alert').textContent).toContain('Rig cannot be shown: no such figure.');
  expect(screen.getByText('around it')).toBeTruthy();
  broken = false;
  await user.click(screen.getByRole('button', { name: 'Try again' }));
  expect(screen.getByText('the part')).toBeTruthy();
  silent.mockRestore();
});
