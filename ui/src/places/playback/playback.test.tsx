import { screen, waitFor } from '@testing-library/react';
import { beforeEach, expect, test } from 'vitest';
import type { Playback, Song } from '../../api/client';
import { answer, bodies } from '../../test/application';
import { draw, edited, shown } from '../../test/screen';
import { hearSong, outputLevel, playing } from '../../meters/song';
import { Order } from './order/Order';
import { LibraryView } from './order/LibraryView';
import { endsAt, followsWords, length, tonightWords } from './player';
import { SectionTable } from './song/SectionTable';

const item = (key: number, title: string, more = {}): Playback['items'][number] => ({
  key,
  kind: 'song',
  title,
  song: `song-${key}`,
  dye: 'woad',
  seconds: 90,
  bpm: '96',
  meter: '7/8',
  sections: 3,
  follows: 'hand',
  pause: 0,
  skips: [],
  repeats: {},
  tempo: 100,
  key_by: 0,
  made: true,
  played: false,
  problem: null,
  crew: '',
  ...more,
});

const playback = (items: Playback['items']): Playback => ({
  version: 7,
  items,
  roles: [],
  outputs: [],
  interface: 'Fern 12 twin',
  returns: [],
  ways: [{ label: 'Fern 12 twin', returns: [] }],
  pilot: { on: true, hz: 19000, db: -30 },
  player: null,
  seconds: 180,
  hands: 2,
  differs: [],
  timecode_fps: 25,
});

beforeEach(() => {
  shown({ profile: { dyes: ['woad', 'indigo'] } });
  answer('POST /api/edits', edited(8));
  answer('GET /api/songs', []);
});

test('the order is moved through and changed by keys', async () => {
  const chosen: number[] = [];
  const two = playback([item(4, 'Ropewalk'), item(9, 'Sea', { problem: 'Sea has no output' })]);
  const { user } = draw(
    <Order playback={two} show={shown()} chosen={4} onChoose={(key) => chosen.push(key)} />,
  );
  expect(screen.getByText(/2 entries · 3:00/)).toBeTruthy();
  expect(screen.getByText('Sea has no output')).toBeTruthy();
  screen.getByRole('button', { name: /1 Ropewalk/ }).focus();
  await user.keyboard('{ArrowDown}');
  expect(chosen).toEqual([9]);
  await user.keyboard('{Alt>}{ArrowUp}{/Alt}');
  await user.keyboard('{Delete}');
  await waitFor(() =>
    expect(bodies('POST /api/edits').map((body) => (body as { settings: unknown }).settings)).toEqual([
      { 'setlist/order': [9, 4] },
      { 'setlist/order': [4] },
    ]),
  );
});

test('a section is moved by bars with Alt and the arrows, and stays in order', async () => {
  const kept: unknown[] = [];
  const song = {
    sections: [
      { key: 1, name: 'Intro', bar: 1 },
      { key: 2, name: 'Verse', bar: 5 },
    ],
    parts: [{ key: 2, bar: 5, bars: 8 }],
  } as unknown as Song;
  const { user } = draw(
    <SectionTable song={song} onPlace={() => undefined} onKeep={(sections) => kept.push(sections)} />,
  );
  (await screen.findByRole('textbox', { name: 'Name of section 2' })).focus();
  await user.keyboard('{Alt>}{ArrowRight}{/Alt}');
  expect(kept).toEqual([
    [
      { key: 1, name: 'Intro', bar: 1 },
      { key: 2, name: 'Verse', bar: 6 },
    ],
  ]);
});

test('what a song that was stopped told last is not shown as playing', () => {
  hearSong({ outputs: [-12.5], state: 'playing', position: 100, bar: 3, beat: 2 });
  expect([playing()?.bar, outputLevel(1), outputLevel(2)]).toEqual([3, -12.5, -144]);
  hearSong({ outputs: [-90], state: 'ready' });
  expect(playing()).toBeNull();
});

test('lengths and times read like words', () => {
  expect([length(34.3), length(271), endsAt(3600, new Date(2026, 5, 13, 21, 5))]).toEqual([
    '0:34',
    '4:31',
    '22:05',
  ]);
  expect([
    tonightWords({ tempo: 100, key_by: 0 }),
    tonightWords({ tempo: 90, key_by: 2 }),
    tonightWords({ tempo: 100, key_by: -1 }),
  ]).toEqual(['', ' (90 %, up 2)', ' (down 1)']);
  expect([followsWords('hand'), followsWords('pause', 3)]).toEqual(['manual start', 'next after 3 s']);
});

test('a song that could not be made says why, until somebody takes it off', async () => {
  const job = (id: string, name: string, more = {}) => ({
    id,
    kind: 'song',
    name,
    form: 'folder',
    state: 'failed',
    done: 0,
    total: 0,
    error: null,
    place: null,
    result: null,
    ...more,
  });
  answer('GET /api/exports', [
    job('1', 'Ropewalk', { error: 'strings.wav cannot be read as sound.' }),
    job('2', 'Herring Tide', { state: 'running', done: 1, total: 4 }),
    job('3', 'Lamplighter', { state: 'done' }),
    job('4', 'A take', { kind: 'export', error: 'The disk is full.' }),
  ]);
  draw(<LibraryView show={shown()} />);
  expect(await screen.findByText(/strings.wav cannot be read as sound/)).toBeTruthy();
  expect(screen.getByRole('progressbar', { name: 'Progress of Herring Tide' })).toBeTruthy();
  expect(screen.queryByText('Lamplighter')).toBeNull();
  expect(screen.queryByText('A take')).toBeNull();
});
