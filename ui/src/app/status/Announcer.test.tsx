import { screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import { set } from '../../api/edits';
import { answer } from '../../test/application';
import { draw, edited, shown } from '../../test/screen';
import { Announcer } from './Announcer';

test('what an edit did is told to whoever hears the page, each time', async () => {
  shown();
  draw(<Announcer />);
  const said = screen.getByRole('status', { name: 'Last edit' });
  expect(said.textContent).toBe('');
  answer('POST /api/edits', { ...edited(8), said: 'Channel 4 Fiddle: preamp gain 24 → 27 dB' });
  await set({ 'channel/4/gain': 27 });
  await waitFor(() => expect(said.textContent).toContain('preamp gain 24 → 27 dB'));
  const before = said.textContent;
  await set({ 'channel/4/gain': 27 });
  await waitFor(() => expect(said.textContent).not.toBe(before));
});
