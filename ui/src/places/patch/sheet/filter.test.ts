import { expect, test } from 'vitest';
import { found, shown, strandsOf } from './filter';
import { port, showOf } from '../../../test/pieces';

const tuba = port('channel', 0, { name: 'Tuba', strands: ['a'] });
const fiddle = port('channel', 6, { name: 'Fiddle', strands: ['b'] });
const ports = [
  port('socket', 8, { strands: ['b'] }),
  tuba,
  fiddle,
  port('send', 6, { strands: ['b'] }),
  port('return', 0, { strands: ['a'] }),
  port('return', 3),
];

test('what is left of a filter stands together, and what stood side by side still does', () => {
  const left = shown(ports, [new Set(['b'])]);
  expect(left.ports.map((one) => [one.id, one.row])).toEqual([
    ['socket/9', 1],
    ['channel/7', 0],
    ['send/7', 0],
  ]);
  expect(left.rows).toBe(2);
  expect(shown(ports, [null, null])).toEqual({ ports, rows: 9 });
  expect(shown(ports, [new Set(['b']), new Set(['a'])]).ports).toEqual([]);
});

test('finds strands by a part of a name, or by a mark', () => {
  expect(found(ports, ' fid')).toEqual(new Set(['b']));
  expect(found(ports, '1')).toEqual(new Set(['a']));
  expect(found(ports, '')).toBeNull();
});

test('knows strands that end, cross, or need a look, and leaves out what was accepted', () => {
  const show = showOf({
    sheet: {
      ports,
      threads: [
        { from: 'socket/9', to: 'channel/7', straight: false, strands: ['b'] },
        { from: 'channel/1', to: 'send/1', straight: true, strands: ['a'] },
      ],
      loose: [{ port: 'channel/1', side: 'left' }],
    },
    findings: [
      { at: ['channel/7'], accepted: null },
      { at: ['channel/1'], accepted: 'on purpose' },
    ],
  });
  expect(strandsOf(show)).toEqual({ loose: new Set(['a']), crossing: new Set(['b']), look: new Set(['b']) });
});
