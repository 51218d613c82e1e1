import { fireEvent, screen, within } from '@testing-library/react';
import { useState } from 'react';
import { expect, test, vi } from 'vitest';
import { port, showOf } from '../../../test/pieces';
import { draw } from '../../../test/screen';
import { type Cursor, start } from './cursor';
import { Sheet } from './Sheet';

const ports = [
  port('socket', 0, { name: 'A 1', strands: ['tuba'] }),
  port('channel', 0, { name: 'Tuba', strands: ['tuba'] }),
  port('channel', 1, { name: 'Fiddle', strands: ['fiddle'] }),
  port('channel', 2, { name: 'Viola' }),
  port('send', 0, { strands: ['tuba'] }),
  port('track', 0, { name: 'Tuba', strands: ['tuba'], note: 'armed' }),
  port('return', 0, { missing: 'no such return' }),
];
const show = showOf({
  profile: { stage_block: 1, take_block: 1, dyes: [] },
  findings: [
    { at: ['channel/2'], accepted: null },
    { at: ['channel/3'], accepted: 'fine' },
  ],
  sheet: {
    ports,
    threads: [
      { from: 'socket/1', to: 'channel/1', straight: true, dye: 'iron', strands: ['tuba'] },
      { from: 'channel/1', to: 'send/1', straight: true, dye: 'iron', strands: [] },
    ],
    loose: [],
  },
});

function sheet(naming = false) {
  const does = Object.fromEntries(
    ['onEdit', 'onName', 'onDye', 'onClear', 'onPair', 'onFix', 'onArm', 'onPaste', 'onNamed'].map((name) => [
      name,
      vi.fn(),
    ]),
  ) as Record<string, ReturnType<typeof vi.fn>>;
  function Held() {
    const [cursor, setCursor] = useState<Cursor>(start);
    const actions = does as unknown as Omit<
      Parameters<typeof Sheet>[0],
      'show' | 'shown' | 'cursor' | 'onCursor' | 'naming'
    >;
    const named = naming ? (ports[1] ?? null) : null;
    return (
      <Sheet
        show={show}
        shown={{ ports, rows: 3 }}
        cursor={cursor}
        onCursor={setCursor}
        naming={named}
        {...actions}
      />
    );
  }
  return { ...draw(<Held />), does };
}

const cell = (name: string) => screen.getByRole('gridcell', { name });
const at = () => screen.getAllByRole('gridcell').filter((one) => one.tabIndex === 0)[0]?.dataset['port'];

test('one cell is at the cursor, and arrows lead from rail to rail and along it', async () => {
  const { user } = sheet();
  await user.click(cell('Channel 1 Tuba'));
  expect(at()).toBe('channel/1');
  for (const [key, port] of [
    ['ArrowDown', 'channel/2'],
    ['End', 'channel/3'],
    ['ArrowLeft', 'socket/1'],
    ['ArrowRight', 'channel/1'],
    ['ArrowRight', 'send/1'],
  ] as const) {
    await user.keyboard(`{${key}}`);
    expect(at()).toBe(port);
  }
});

test.each([
  ['{Enter}', 'onEdit'],
  ['{F2}', 'onName'],
  ['{F4}', 'onDye'],
  ['{F8}', 'onPair'],
  ['{F9}', 'onFix'],
  [' ', 'onArm'],
  ['{Delete}', 'onClear'],
])('%s does %s at the cursor', async (key, name) => {
  const { user, does } = sheet();
  await user.click(cell('Channel 2 Fiddle'));
  await user.keyboard(key);
  expect(does[name]?.mock.calls[0]?.[0]).toMatchObject({ id: 'channel/2' });
});

test('typing opens the cell with what was typed; find and help keep their keys', async () => {
  const { user, does } = sheet();
  await user.click(cell('Channel 1 Tuba'));
  await user.keyboard('5/?');
  expect(does['onEdit']?.mock.calls.map((call) => call[2] as string)).toEqual(['5']);
});

test('Shift makes a range on the rail, and Escape gives it up', async () => {
  const { user } = sheet();
  await user.click(cell('Channel 1 Tuba'));
  await user.keyboard('{Shift>}{ArrowDown}{ArrowDown}{/Shift}');
  const range = () => document.querySelectorAll('.sheet-port.sheet-range').length;
  expect(range()).toBe(3);
  await user.keyboard('{Escape}');
  expect([range(), at()]).toEqual([0, 'channel/3']);
});

test('the whole strand of the cell is marked, and what needs a look unless it was accepted', async () => {
  const { user } = sheet();
  await user.click(cell('Channel 1 Tuba'));
  const marked = (kind: string) => [...document.querySelectorAll<HTMLElement>(`.sheet-port.sheet-${kind}`)];
  expect(marked('through').map((one) => one.dataset['port'])).toEqual([
    'socket/1',
    'channel/1',
    'send/1',
    'track/1',
  ]);
  expect(marked('look').map((one) => one.dataset['port'])).toEqual(['channel/2']);
  expect(marked('missing')[0]?.title).toBe('no such return');
});

test('names that are pasted go to the cell at the cursor', async () => {
  const { user, does } = sheet();
  await user.click(cell('Channel 2 Fiddle'));
  fireEvent.paste(cell('Channel 2 Fiddle'), { clipboardData: { getData: () => 'One\nTwo' } });
  expect(does['onPaste']?.mock.calls[0]).toMatchObject([{ id: 'channel/2' }, 'One\nTwo']);
});

test('a name typed in place goes on with Enter and is given up with Escape', async () => {
  const { user, does } = sheet(true);
  const input = screen.getByRole('textbox', { name: 'Name of channel 1' });
  await user.clear(input);
  await user.type(input, 'Great tuba{Enter}');
  expect(does['onNamed']?.mock.calls[0]).toEqual(['Great tuba', 1]);
  expect(does['onEdit']).not.toHaveBeenCalled();
});

test('is a grid: five headers, rows with their numbers, and the cells that are chosen', async () => {
  const { user } = sheet();
  expect(screen.getAllByRole('columnheader').map((one) => one.textContent)).toEqual([
    'Socket',
    'Channel',
    'Send · tap',
    'Track',
    'Return',
  ]);
  const rows = screen.getAllByRole('row');
  expect(rows.map((one) => one.getAttribute('aria-rowindex'))).toEqual(['1', '2', '3', '4']);
  const columns = within(rows[1] as HTMLElement)
    .getAllByRole('gridcell')
    .map((one) => one.getAttribute('aria-colindex'));
  expect(columns).toEqual(['1', '2', '3', '4', '5']);
  await user.click(cell('Channel 2 Fiddle'));
  await user.keyboard('{Shift>}{ArrowDown}{/Shift}');
  const chosen = screen.getAllByRole('gridcell', { selected: true });
  expect(chosen.map((one) => one.dataset['port'])).toEqual(['channel/2', 'channel/3']);
});

test('a connection that has no answer yet is drawn dashed', () => {
  sheet();
  const drawn = [...document.querySelectorAll('path.sheet-thread')];
  expect(drawn.map((one) => one.classList.contains('sheet-asked'))).toEqual([false, true]);
});
