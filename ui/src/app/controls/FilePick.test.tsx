import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { expect, test, vi } from 'vitest';
import { FilePick } from './FilePick';

test('the same file can be chosen again', async () => {
  const picked = vi.fn();
  render(
    <FilePick label="Show file" onPick={picked}>
      Bring one in
    </FilePick>,
  );
  const file = new File(['{}'], 'show.json', { type: 'application/json' });
  const field = screen.getByLabelText<HTMLInputElement>('Show file');
  await userEvent.upload(field, file);
  expect(field.value).toBe('');
  await userEvent.upload(field, file);
  expect(picked.mock.calls).toEqual([[[file]], [[file]]]);
});
