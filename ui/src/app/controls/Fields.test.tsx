import { screen, waitFor } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import { answer, bodies, Refusal } from '../../test/application';
import { draw, edited, shown } from '../../test/screen';
import { ChoiceField, fitting, TextSetting } from './Fields';

beforeEach(() => {
  shown();
  answer('POST /api/edits', edited(8));
});

const gain = (value: number) => <TextSetting label="Gain" path="channel/1/gain" value={value} />;
const box = () => screen.getByRole<HTMLInputElement>('textbox', { name: 'Gain' });
const sent = () => bodies('POST /api/edits').map((body) => body['settings']);

test('a figure is set with Enter, with either minus', async () => {
  const { user } = draw(gain(18));
  await user.clear(box());
  await user.type(box(), '−6{Enter}');
  await waitFor(() => expect(sent()).toEqual([{ 'channel/1/gain': -6 }]));
});

test('a figure is set when the field is left, and only when it has changed', async () => {
  const { user } = draw(gain(18));
  await user.click(box());
  await user.tab();
  await user.type(box(), '.0');
  await user.tab();
  expect(sent()).toEqual([]);
  await user.type(box(), '1');
  await user.tab();
  await waitFor(() => expect(sent()).toEqual([{ 'channel/1/gain': 181 }]));
});

test('what is not a number is put back', async () => {
  const { user } = draw(gain(18));
  await user.type(box(), 'dB{Enter}');
  expect([box().value, sent()]).toEqual(['18', []]);
});

test('what is refused is put back', async () => {
  answer('POST /api/edits', new Refusal(422, 'too much'));
  const { user } = draw(gain(18));
  await user.type(box(), '0{Enter}');
  await waitFor(() => expect(box().value).toBe('18'));
});

test('what is being typed stays when somebody else sets it, and both are there to choose from', async () => {
  const { user, again } = draw(gain(18));
  await user.clear(box());
  await user.type(box(), '2');
  again(gain(30));
  expect(box().value).toBe('2');
  await user.type(box(), '1{Enter}');
  expect(screen.getByRole('alert').textContent).toContain('Someone else set this to “30”.');
  expect(sent()).toEqual([]);
  await user.click(screen.getByRole('button', { name: 'Set mine' }));
  await waitFor(() => expect(sent()).toEqual([{ 'channel/1/gain': 21 }]));
  expect(screen.queryByRole('alert')).toBeNull();
  again(gain(21));
  again(gain(18)); // undone elsewhere
  expect(box().value).toBe('18');
});

test('somebody else’s value is taken where that is chosen', async () => {
  const { user, again } = draw(gain(18));
  await user.type(box(), '5');
  again(gain(30));
  await user.click(screen.getByRole('button', { name: 'Take “30”' }));
  expect(box().value).toBe('30');
  expect(sent()).toEqual([]);
});

const CHOICES = [
  { label: 'None', settings: { 'channel/4/stage': null }, current: false, missing: null, marks: [] },
  { label: 'In 4', settings: { 'channel/4/stage': 'desk/in/4' }, current: true, missing: null, marks: ['4'] },
  {
    label: 'In 12',
    settings: { 'channel/4/stage': 'desk/in/12' },
    current: false,
    missing: null,
    marks: ['12'],
  },
  {
    label: 'In 13',
    settings: { 'channel/4/stage': 'desk/in/13' },
    current: false,
    missing: 'no such socket',
    marks: ['13'],
  },
];

async function choices(typed = '') {
  const choose = vi.fn();
  answer('GET /api/choices', CHOICES);
  const { user } = draw(
    <ChoiceField
      column="hears_on_stage"
      label="Hears"
      number={4}
      version={7}
      typed={typed}
      autoFocus
      onChoose={choose}
    />,
  );
  await waitFor(() => expect(screen.getAllByRole('option').length).toBeGreaterThan(0));
  return { user, choose };
}

test('what the rig lacks is shown with its reason and cannot be chosen', async () => {
  const { choose } = await choices('13');
  const option = screen.getByRole('option');
  expect(option.textContent).toBe('In 13missing: no such socket');
  expect(option.getAttribute('aria-disabled')).toBe('true');
  expect(choose).not.toHaveBeenCalled();
});

test('typing narrows the list, and Enter takes the first that fits', async () => {
  const { user, choose } = await choices('12');
  await user.keyboard('{Enter}');
  expect(choose).toHaveBeenCalledWith({ 'channel/4/stage': 'desk/in/12' });
});

test('choosing what is set already sets nothing', async () => {
  const { user, choose } = await choices();
  await user.click(screen.getByRole('option', { name: 'In 4' }));
  expect(choose).not.toHaveBeenCalled();
});

test('when somebody else has made another choice, both are offered', async () => {
  const choose = vi.fn();
  answer('GET /api/choices', CHOICES);
  const field = (version: number) => (
    <ChoiceField
      column="hears_on_stage"
      label="Hears"
      number={4}
      version={version}
      autoFocus
      onChoose={choose}
    />
  );
  const { user, again } = draw(field(7));
  await waitFor(() => expect(screen.getAllByRole('option').length).toBeGreaterThan(0));
  const other = { label: 'In 9', settings: { 'channel/4/stage': 'desk/in/9' }, missing: null, marks: ['9'] };
  answer('GET /api/choices', [
    ...CHOICES.map((one) => ({ ...one, current: false })),
    { ...other, current: true },
  ]);
  again(field(8));
  expect((await screen.findByRole('alert')).textContent).toContain('Someone else set this to “In 9”.');
  await user.keyboard('12{Enter}');
  expect(choose).not.toHaveBeenCalled();
  await user.click(screen.getByRole('button', { name: 'Set mine, “In 12”' }));
  expect(choose).toHaveBeenCalledWith({ 'channel/4/stage': 'desk/in/12' });
  expect(screen.queryByRole('alert')).toBeNull();
});

const named = (label: string, ...marks: string[]) => ({
  label,
  marks,
  settings: {},
  current: false,
  missing: null,
});

test('what is typed names a choice as the sheet does, exactly first', () => {
  const sockets = [
    named('Box A in 5 (link A, lane 5)', 'A 5', 'A·5'),
    named('Box A in 15 (link A, lane 15)', 'A 15', 'A·15'),
    named('Box B in 5 (link B, lane 5)', 'B 5', 'B·5'),
    named('In 5', 'In 5', '5'),
    named('In 15', 'In 15', '15'),
  ];
  const first = (typed: string) => fitting(sockets, typed)[0]?.label;
  expect(['a 5', 'A5', 'B 5', 'in 5', '5', '15', 'box a in 15'].map(first)).toEqual([
    'Box A in 5 (link A, lane 5)',
    'Box A in 5 (link A, lane 5)',
    'Box B in 5 (link B, lane 5)',
    'In 5',
    'In 5',
    'In 15',
    'Box A in 15 (link A, lane 15)',
  ]);
  expect(fitting(sockets, '')).toEqual(sockets);
  expect(fitting(sockets, 'C 1')).toEqual([]);
});

test('what stands there is replaced by the next key', async () => {
  const { user, choose } = await choices();
  await waitFor(() => expect(screen.getByRole<HTMLInputElement>('combobox').value).toBe('In 4'));
  await user.keyboard('12{Enter}');
  expect(choose).toHaveBeenCalledWith({ 'channel/4/stage': 'desk/in/12' });
});
