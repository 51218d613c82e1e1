import { screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import type { Port } from '../../../api/client';
import { useNotice } from '../../../api/notices';
import { answer, bodies } from '../../../test/application';
import { draw, edited, shown } from '../../../test/screen';
import { NameInput } from './NameInput';

const StateNote = () => {
  const notice = useNotice();
  return notice && <button onClick={notice.action?.run}>{notice.text}</button>;
};
const onDone = vi.fn();
const port = (name: string) => ({ rail: 'channel', number: 4, mark: '4', row: 4, name }) as Port;
const input = (name: string) => (
  <>
    <NameInput port={port(name)} left={0} width={90} onDone={onDone} />
    <StateNote />
  </>
);
const box = () => screen.getByRole('textbox', { name: 'Name of channel 4' });

test('a name that somebody else has typed stays, and the other one can be taken', async () => {
  shown();
  answer('POST /api/edits', edited(8));
  const { user, again } = draw(input('Fiddle'));
  await user.clear(box());
  await user.type(box(), 'Viola');
  again(input('Violin'));
  await user.type(box(), '{Enter}');
  expect(onDone).toHaveBeenLastCalledWith(null, 1);
  await user.click(
    await screen.findByText(/Someone else renamed this to “Violin”. Your “Viola” was not saved/),
  );
  expect(bodies('POST /api/edits').map((body) => body['settings'])).toEqual([{ 'channel/4/name': 'Viola' }]);
});

test('what was not typed again sets nothing over what somebody else has typed', async () => {
  const { user, again } = draw(input('Fiddle'));
  again(input('Violin'));
  await user.type(box(), '{Enter}');
  expect(onDone).toHaveBeenLastCalledWith(null, 1);
});
