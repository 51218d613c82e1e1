import { screen, waitFor } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import { answer, bodies } from '../../test/application';
import { port } from '../../test/pieces';
import { useLooking } from '../../api/preview';
import { draw, edited, previewOf, shown } from '../../test/screen';
import { FindingsDrawer } from './FindingsDrawer';

const finding = (id: string, more: object = {}) => ({
  id,
  check: id,
  severity: 'blocks',
  sentence: `${id} is wrong.`,
  path: [{ point: 'desk/ch/4', label: 'Channel 4' }],
  at: ['channel/4'],
  fix: null,
  accepted: null,
  ...more,
});
const FIX = { label: 'Mend it', settings: { 'send/4/tap': 'preamp' } };

beforeEach(() => {
  answer('POST /api/edits', edited(8));
  answer('POST /api/steps', edited(8));
});

test('a finding is mended by its fix in one press where that takes nothing away', async () => {
  shown({ findings: [finding('tap', { fix: FIX })], sheet: { ports: [] } });
  answer('POST /api/steps/preview', previewOf({ label: 'Mend it', settings: FIX.settings }));
  const { user } = draw(<FindingsDrawer open onClose={() => undefined} />);
  expect(screen.getByRole('heading', { name: '1 finding' })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Mend it' }));
  await waitFor(() =>
    expect(bodies('POST /api/edits')).toMatchObject([{ label: 'Mend it', settings: FIX.settings }]),
  );
});

test.each([
  [{ losses: [{ name: 'Out 15', channel: 'desk/out/15', lost: ['Main L'] }] }],
  [{ findings_new: ['Main L does not reach an output socket.'] }],
  [{ heard: [{ source: 'Fiddle', listener: 'Ada', from: -12, to: null }] }],
])('a fix that takes something away shows it first: %j', async (harm) => {
  shown({ findings: [finding('tap', { fix: FIX })], sheet: { ports: [] } });
  answer('POST /api/steps/preview', previewOf({ label: 'Mend it', settings: FIX.settings, ...harm }));
  const Looks = () => <p>{useLooking()?.preview.label === 'Mend it' ? 'is looked at' : ''}</p>;
  const { user } = draw(
    <>
      <FindingsDrawer open onClose={() => undefined} />
      <Looks />
    </>,
  );
  await user.click(screen.getByRole('button', { name: 'Mend it' }));
  expect(await screen.findByText('is looked at')).toBeTruthy();
  expect(bodies('POST /api/edits')).toEqual([]);
});

test('a finding may stay for a reason, and only for one', async () => {
  shown({ findings: [finding('tap')], sheet: { ports: [] } });
  const { user } = draw(<FindingsDrawer open onClose={() => undefined} />);
  await user.click(screen.getByRole('button', { name: 'Accept…' }));
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Accept' }).disabled).toBe(true);
  await user.type(screen.getByRole('textbox', { name: 'Reason' }), 'headphones{Enter}');
  await waitFor(() =>
    expect(bodies('POST /api/steps')).toMatchObject([
      { kind: 'accept', options: { finding: 'tap', reason: 'headphones' } },
    ]),
  );
});

test('what was accepted is told with its reason, counts no more, and can be reopened', async () => {
  shown({ findings: [finding('tap', { accepted: 'on purpose' })], sheet: { ports: [] } });
  const { user } = draw(<FindingsDrawer open onClose={() => undefined} />);
  expect(screen.getByRole('heading', { name: 'No findings' })).toBeTruthy();
  expect(screen.getByText('No open findings that nobody accepted.')).toBeTruthy();
  expect(screen.getByText('Accepted: on purpose')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Reopen' }));
  await waitFor(() =>
    expect(bodies('POST /api/steps')).toMatchObject([{ kind: 'reopen', options: { finding: 'tap' } }]),
  );
});

test('leads to the place on the sheet, where there is one', async () => {
  const close = vi.fn();
  shown({
    findings: [finding('tap'), finding('clock', { at: ['rig'] })],
    sheet: { ports: [port('channel', 3)] },
  });
  const { user } = draw(<FindingsDrawer open onClose={close} />);
  const [show, ...more] = screen.getAllByRole('button', { name: 'Show' });
  expect(more).toEqual([]);
  if (show) await user.click(show);
  expect([window.location.hash, close.mock.calls.length]).toEqual(['#/patch', 1]);
});
