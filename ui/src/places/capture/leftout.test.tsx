import { screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import { answer, bodies } from '../../test/application';
import { draw, edited, shown } from '../../test/screen';
import { LeftOut } from './LeftOut';

const left = (kind: string, title: string, why: string) => ({ kind, title, why, at: `desk/ch/${title}` });
const finding = (kind: string, part: object) => ({
  id: `not-captured/${kind}`,
  accepted: null,
  fix: null,
  ...part,
});

test('nothing is told where everything is captured', () => {
  draw(<LeftOut show={shown()} />);
  expect(screen.queryByText(/will not be captured/)).toBeNull();
});

test('what is left out is told with its reason, and brought in', async () => {
  answer('POST /api/edits', edited(8));
  const fix = { label: 'Capture 2 sources', settings: { 'send/1/source': 'desk/ch/1' } };
  const show = shown({
    uncaptured: [
      left('no-send', 'Tuba', 'no card send carries it'),
      left('no-send', 'Harp', 'no card send carries it'),
      left('not-armed', 'Fiddle', 'track 4 is not armed'),
    ],
    findings: [finding('no-send', { fix }), finding('not-armed', { accepted: 'a spare' })],
  });
  const { user } = draw(<LeftOut show={show} />);
  await user.click(screen.getByText('3 sources will not be captured'));
  expect(screen.getAllByRole('listitem').map((one) => one.textContent)).toEqual([
    'Tuba: no card send carries it',
    'Harp: no card send carries it',
    'Fiddle: track 4 is not armed',
  ]);
  expect(screen.getByText('Accepted: a spare')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Capture 2 sources' }));
  await waitFor(() =>
    expect(bodies('POST /api/edits')).toMatchObject([{ settings: fix.settings, label: fix.label }]),
  );
});
