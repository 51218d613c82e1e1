import { screen, waitFor, within } from '@testing-library/react';
import { beforeEach, expect, test } from 'vitest';
import { answer, asked, bodies, Refusal } from '../../test/application';
import { draw, previewOf, shown } from '../../test/screen';
import { Compare } from './Compare';
import { Journal } from './Journal';
import { Presets } from './Presets';

const PREVIEW = 'POST /api/steps/preview';
const AT = '2026-06-13T20:00:00Z';
const change = (path: string, from: string, to: string) => ({ path, what: path, field: 'name', from, to });

beforeEach(() => {
  answer(PREVIEW, previewOf());
  answer('GET /api/desk', { up: true, away: null, rig: [], differences: [], copies: [] });
});

test('a preset keeps the parts that are ticked', async () => {
  shown();
  answer('GET /api/presets', []);
  answer('POST /api/presets', { id: 1 });
  const { user } = draw(<Presets />);
  expect(await screen.findByText(/No presets yet/)).toBeTruthy();
  await user.click(screen.getByRole('checkbox', { name: 'Names' }));
  await user.type(screen.getByRole('textbox', { name: 'Preset name' }), 'Opening{Enter}');
  await waitFor(() =>
    expect(bodies('POST /api/presets')).toEqual([
      { name: 'Opening', parts: ['inputs', 'sends', 'returns', 'mix', 'outputs', 'playback'] },
    ]),
  );
});

test('a preset is recalled whole or in part, after a look', async () => {
  shown();
  answer('GET /api/presets', [
    { id: 4, name: 'Opening', parts: ['inputs', 'names'], count: 60, at: AT, who: 'Ada' },
  ]);
  const { user } = draw(<Presets />);
  const row = within(await screen.findByRole('listitem'));
  await user.click(row.getByRole('checkbox', { name: 'Names' }));
  await user.click(row.getByRole('button', { name: 'Recall…' }));
  await waitFor(() =>
    expect(bodies(PREVIEW)).toEqual([{ kind: 'preset', options: { preset: 4, parts: ['inputs'] } }]),
  );
});

test('the journal tells who and what, opens what is long, and leads back to before', async () => {
  const show = shown();
  answer('GET /api/journal', [
    {
      version: 7,
      label: 'Names',
      who: 'Ada',
      at: AT,
      kind: 'edit',
      count: 5,
      changes: [change('a', 'x', 'y')],
    },
    {
      version: 6,
      label: 'Gain',
      who: 'Bram',
      at: AT,
      kind: 'edit',
      count: 1,
      changes: [change('b', '1 dB', '2 dB')],
    },
  ]);
  answer('GET /api/journal/7', { changes: [change('one', 'old', 'new'), change('two', 'old', 'new')] });
  const { user } = draw(<Journal show={show} />);
  const [names, gain] = await screen.findAllByRole('listitem');
  if (!names || !gain) throw new Error('two entries');
  expect(gain.textContent).toContain('Bram · 1 setting: 1 dB → 2 dB');
  await user.click(within(names).getByRole('button', { name: 'Show all' }));
  expect(await within(names).findAllByRole('row')).toHaveLength(3);
  await user.click(within(gain).getByRole('button', { name: 'Restore an earlier version…' }));
  await waitFor(() => expect(bodies(PREVIEW)).toEqual([{ kind: 'version', options: { version: 5 } }]));
});

test('compares any two, and says why it cannot', async () => {
  const show = shown({ version: 3 });
  answer('GET /api/shows', [{ id: 2, open: false, about: { name: 'Clean' } }]);
  answer('GET /api/presets', []);
  answer('GET /api/compare', (_, url) =>
    url.searchParams.get('other') === 'desk'
      ? new Refusal(422, 'The desk does not answer.')
      : { one: 'now', other: 'Clean', changes: [change('channel/1/name', 'Tuba', 'Horn')] },
  );
  const { user } = draw(<Compare show={show} />);
  expect(await screen.findByText('The desk does not answer.')).toBeTruthy();
  await user.click(screen.getByRole('combobox', { name: 'with' }));
  expect(screen.getAllByRole('option').map((one) => one.textContent)).toEqual([
    'the plan now',
    'the desk',
    'version 2 of this show',
    'version 1 of this show',
    'show Clean',
  ]);
  await user.click(screen.getByRole('option', { name: 'show Clean' }));
  expect(await screen.findByText('1 setting differs.')).toBeTruthy();
  expect(asked.filter((one) => one.request === 'GET /api/compare')).toHaveLength(2);
});
