import { screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import { draw } from '../../test/screen';
import { HelpButton } from './HelpButton';
import { words } from './glossary';

test('the glossary has a dozen words at most, each with a trade word and a sentence', () => {
  expect(words.length).toBeGreaterThan(5);
  expect(words.length).toBeLessThanOrEqual(12);
  expect(words.filter(({ word, nearest, meaning }) => !word || !nearest || !meaning.endsWith('.'))).toEqual(
    [],
  );
});

test('a question mark opens it, but not while somebody types', async () => {
  const { user } = draw(
    <>
      <HelpButton byKey />
      <input aria-label="Name" />
    </>,
  );
  await user.type(screen.getByRole('textbox'), '?');
  expect(screen.queryByRole('dialog')).toBeNull();
  screen.getByRole('textbox').blur();
  await user.keyboard('?');
  expect(await screen.findByRole('table', { name: 'Glossary' })).toBeTruthy();
  expect(screen.getByRole('rowheader', { name: 'Strand' })).toBeTruthy();
});

test('where a page has keys of its own, only the button opens it', async () => {
  const { user } = draw(<HelpButton byKey={false} />);
  await user.keyboard('?');
  expect(screen.queryByRole('dialog')).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Glossary' }));
  await waitFor(() => expect(screen.getByRole('rowheader', { name: 'Flip' })).toBeTruthy());
});
