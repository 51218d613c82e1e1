import { screen, within } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { answer, bodies } from '../../test/application';
import { draw, edited, previewOf, shown } from '../../test/screen';
import { samplesOf } from './listening/ears';
import { cellsOf, sorted } from './listening/figures';
import { FigureTable } from './listening/FigureTable';
import { bar, heardBy, lateness, stateOf } from './listening/heard';
import { Listening } from './listening/Listening';
import { OutputSheet } from './sockets/OutputSheet';
import { Room } from './room/Room';
import { extent, things, wordsBeside } from './room/room';
import { chosen, linesOf, moved } from './sockets/sheet';
import { hearingOf, outputsOf } from '../../test/hearing';

beforeEach(() => {
  shown();
  answer('POST /api/edits', edited(8));
  answer('GET /api/findings', []);
  answer('GET /api/hearing/way', {
    source: 'channel/2',
    listener: 2,
    db: -7,
    ms: 1.25,
    ways: 1,
    notches: [],
    hops: [
      hop('desk/in/2', 'In 2'),
      hop('desk/ch/2@channel-in', 'Channel 2 at channel in'),
      hop('desk/ch/2@pre-eq', 'Channel 2 at pre-EQ'),
      hop('desk/ch/2@pre-fader', 'Channel 2 at pre-fader'),
      {
        ...hop('desk/bus/2@pre-eq', 'Bus 2 at pre-EQ'),
        db: -7,
        value: 'channel/2/send/2',
        value_words: 'Click, send to Bus 2',
        setting: 'bus/2/tap',
      },
      hop('desk/output/2', 'Output 2'),
    ],
  });
});

const hop = (point: string, label: string) => ({
  point,
  label,
  text: '',
  db: 0 as number | null,
  total_db: 0,
  delay_ms: 0,
  total_delay_ms: 0,
  setting: null as string | null,
  value: null as string | null,
  value_words: null as string | null,
});

describe('what a listener hears', () => {
  it('is told the loudest first, and silence last', () => {
    expect(heardBy(hearingOf(), 2).map((one) => [one.source.title, one.db])).toEqual([
      ['Click', -7],
      ['Fiddle', -18],
      ['Tuba', null],
    ]);
  });

  it('goes with a state in words: unmet requirements before silence before lateness', () => {
    const late = outputsOf({ zones: [{ ...zone, at: 1 }] });
    expect(stateOf(hearingOf(), late, 1).text).toBe('! 2.1 ms early');
    expect(stateOf(hearingOf(), outputsOf(), 2).text).toBe('✕ 1 unmet requirement');
    expect(stateOf(hearingOf(), outputsOf(), 3).text).toBe('! no signal');
    expect(stateOf(hearingOf(), outputsOf(), 1).text).toBe('✓ all met');
    expect(lateness(0.01)).toBe('in time');
    expect([bar(null), bar(-60), bar(0), bar(6)]).toEqual([0, 2, 100, 100]);
  });
});

const zone = {
  output: 3,
  at: null as number | null,
  main_m: 30,
  speaker_m: 2,
  now: 4000,
  wanted: 4100,
  late_ms: -2.1,
  possible: true,
  now_ms: 83.3,
  wanted_ms: 85.4,
};

describe('the table of all', () => {
  it('marks wishes, the broken ones before the kept, and sorts by a listener', () => {
    const rows = cellsOf(hearingOf());
    expect(rows.map((row) => row.cells.map((cell) => cell.wish))).toEqual([
      [null, null, null],
      [null, 'broken', null],
      [null, 'kept', null],
    ]);
    expect(sorted(rows, 1).map((row) => row.source.title)).toEqual(['Click', 'Fiddle', 'Tuba']);
    expect(sorted(rows, null)).toBe(rows);
  });

  it('is gone through by keyboard only, filtered, and opens the way', async () => {
    const open = vi.fn();
    const { user } = draw(<FigureTable hearing={hearingOf()} onOpen={open} />);
    await user.tab(); // the search field
    await user.keyboard('cli');
    expect(screen.getAllByRole('row')).toHaveLength(2);
    await user.clear(screen.getByRole('searchbox'));
    await user.click(screen.getByRole('button', { name: 'Unmet requirements only' }));
    expect(screen.getAllByRole('rowheader').map((one) => one.textContent?.trim())).toEqual(['Click']);
    await user.click(screen.getByRole('button', { name: 'Unmet requirements only' }));
    screen.getByRole('button', { name: 'Fiddle for PA: −4.0 dB' }).focus();
    await user.keyboard('{ArrowDown}{ArrowRight}');
    expect(document.activeElement?.getAttribute('aria-label')).toBe(
      'Click for Ada: −7.0 dB, requirement not met',
    );
    await user.keyboard('{Enter}');
    expect(open).toHaveBeenCalledWith({ source: 'channel/2', listener: 2 });
  });
});

describe('who hears what', () => {
  const place = (
    <Listening
      head={null}
      outputs={outputsOf()}
      hearing={hearingOf()}
      sheet={null}
      chosen={{ listener: 2, source: 'channel/2' }}
      onChoose={() => undefined}
    />
  );

  it('shows the way without taps at which nothing happens, and where each hop is set', async () => {
    draw(place);
    const way = await screen.findByLabelText('Signal path');
    await within(way).findByText(/1 path, −7.0 dB, 1.25 ms/);
    expect(within(way).queryByText('Channel 2 at pre-EQ')).toBeNull();
    within(way).getByText(/send to Bus 2 · −7.0 dB/);
    within(way).getByRole('button', { name: 'Change Bus 2 at pre-EQ' });
  });

  it('mends a broken wish by a press that is looked at first', async () => {
    answer('GET /api/findings', [
      {
        id: 'broken-wish/1/channel/2/2',
        check: 'broken-wish',
        severity: 'blocks',
        sentence: 'Ada hears Click at −7 dB but needs at least −6 dB.',
        path: [],
        at: [],
        fix: null,
        press: { label: 'Raise it by 1 dB at the desk', values: { 'channel/2/send/2': -6 } },
        accepted: null,
      },
    ]);
    answer('POST /api/levels/preview', { values: [], heard: [], findings_new: [], findings_gone: [] });
    const { user } = draw(place);
    await user.click(await screen.findByRole('button', { name: 'Raise it by 1 dB at the desk…' }));
    expect(bodies('POST /api/levels/preview')).toEqual([{ values: { 'channel/2/send/2': -6 } }]);
    expect(bodies('POST /api/levels')).toEqual([]);
  });

  it('adds a wish for what is looked at', async () => {
    const { user } = draw(place);
    await user.click(await screen.findByRole('button', { name: 'Add requirement' }));
    expect(bodies('POST /api/edits')[0]).toMatchObject({
      settings: { 'wish/order': [1, 2], 'wish/2/sources': ['channel/2'], 'wish/2/listeners': [2] },
    });
  });
});

describe('the outputs sheet', () => {
  it('goes from cell to cell, and a range grows with Shift', () => {
    const size = { rows: 16, columns: 5 };
    const from = { row: 8, anchor: 8, column: 0 };
    const to = moved(from, 'ArrowDown', true, size);
    expect(to).toEqual({ row: 9, anchor: 8, column: 0 });
    expect(to && chosen(linesOf(outputsOf(), 'output'), { ...to, row: 1, anchor: 0 })).toHaveLength(2);
    expect(moved(from, 'End', false, size)).toEqual({ row: 15, anchor: 15, column: 0 });
    expect(moved(from, 'ArrowLeft', false, size)).toEqual(from);
    expect(moved(from, 'x', false, size)).toBeNull();
  });

  it('sets any output directly, several in one step, and shows first who would hear something else', async () => {
    answer('POST /api/steps/preview', (body) =>
      previewOf({
        label: String(body['kind']),
        heard: [{ source: 'Fiddle', listener: 'Ada', from: -18, to: null }],
      }),
    );
    const { user } = draw(
      <OutputSheet outputs={outputsOf()} kind="output" sought="" onTrace={() => undefined} />,
    );
    screen.getByRole('grid').focus();
    await user.keyboard('{ArrowDown}{Shift>}{ArrowDown}{/Shift}main');
    await user.keyboard('{Enter}');
    expect(bodies('POST /api/steps/preview')[0]).toEqual({
      kind: 'outputs',
      options: { kind: 'output', first: 2, count: 2, source: 'desk/main/l' },
    });
    expect(bodies('POST /api/edits')).toEqual([]);
  });

  it('takes the first click as a choice, the next one as a wish to change', async () => {
    const { user } = draw(
      <OutputSheet outputs={outputsOf()} kind="output" sought="" onTrace={() => undefined} />,
    );
    const first = screen.getAllByRole('gridcell')[0] as HTMLElement;
    await user.click(first);
    expect(screen.queryByRole('combobox')).toBeNull();
    await user.click(first);
    expect(screen.getByRole('combobox', { name: 'Source' })).toBeTruthy();
  });

  it('keeps a delay in samples, and empties with Delete', async () => {
    answer('POST /api/steps/preview', () => previewOf());
    const { user } = draw(
      <OutputSheet outputs={outputsOf()} kind="output" sought="" onTrace={() => undefined} />,
    );
    screen.getByRole('grid').focus();
    await user.keyboard('{ArrowRight}{ArrowRight}2.5{Enter}');
    await user.keyboard('{ArrowLeft}{ArrowLeft}{Delete}');
    expect(bodies('POST /api/steps/preview').map((one) => one['options'])).toEqual([
      { settings: { 'output/1/delay': 120 } },
      { settings: { 'output/1/source': null } },
    ]);
  });
});

describe('what is listened to', () => {
  it('comes as left and right in turn', () => {
    const sound = btoa(String.fromCharCode(0, 64, 0, 192, 255, 127, 0, 128));
    expect(
      samplesOf({ sound, frames: 2 }).map((side) => [...side].map((one) => Number(one.toFixed(3)))),
    ).toEqual([
      [0.5, 1],
      [-0.5, -1],
    ]);
  });
});

describe('the room', () => {
  it('writes beside two things at one spot in two lines, and beside others where they stand', () => {
    const at = (path: string, x: number, y: number) => ({ path, short: 'Wedge left', x, y });
    const words = wordsBeside(
      [at('a', 2, 3), at('b', 2, 3), at('c', 2.5, 3.2), at('d', -2, 3), at('e', 2, 9)],
      1,
    );
    const lines = ['a', 'b', 'c'].map((path) => words.get(path)?.y ?? 0);
    expect(lines[0]).toBe(3.4);
    for (const [one, other] of [
      [0, 1],
      [1, 2],
      [0, 2],
    ] as const)
      expect(Math.abs((lines[one] ?? 0) - (lines[other] ?? 0))).toBeGreaterThanOrEqual(1.25 - 1e-9);
    expect([words.get('d'), words.get('e')]).toEqual([
      { x: -3.3, y: 3.4, end: true },
      { x: 3.3, y: 9.4, end: false },
    ]);
  });

  it('has everything that stands somewhere in it, with room around', () => {
    expect(things(outputsOf()).map((one) => [one.path, one.kind])).toEqual([
      ['output/1', 'zone'],
      ['listener/1', 'ears'],
      ['listener/2', 'ears'],
      ['listener/3', 'ears'],
    ]);
    expect(extent([{ x: 20, y: 40 }])).toEqual({ left: -12, top: -5, width: 36, height: 49 });
  });

  it('takes places in feet, and delays in milliseconds', async () => {
    const { user } = draw(<Room outputs={outputsOf({ zones: [zone] })} />);
    await user.click(screen.getByRole('button', { name: 'in metres' }));
    const across = screen.getByLabelText('PA from the stage');
    await user.clear(across);
    await user.type(across, '100{Enter}');
    const delay = screen.getByLabelText('Delay of Output 1, Bus 1 Ear Ada');
    await user.clear(delay);
    await user.type(delay, '10{Enter}');
    expect(bodies('POST /api/edits').map((one) => one['settings'])).toEqual([
      { 'listener/1/y': 30.48 },
      { 'output/1/delay': 480 },
    ]);
  });
});
