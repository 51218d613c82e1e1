import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { KeyboardEvent } from 'react';
import type { Song } from '../../../api/client';
import { useLivePlayer } from '../../../api/live';
import { usePlayback, useShow } from '../../../api/queries';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';
import { playing } from '../../../meters/song';
import own from '../playback.module.css';

type Sections = NonNullable<Song['sections']>;

/** Where a section is to begin: `section` is moved there, or one more begins. */
export interface SectionPlace {
  sample: number;
  snap: 'bar' | 'zero' | 'sample';
  section?: number;
}

interface SectionTableProps {
  song: Song;
  onKeep: (sections: Sections) => void;
  onPlace: (place: SectionPlace) => void;
}

/** Sections with the bars where they begin; Alt and the arrows move one by bars. */
export function SectionTable({ song, onKeep, onPlace }: SectionTableProps) {
  const head = usePlayhead(song);
  const sections = song.sections ?? [];
  const dyes = useShow().data?.profile.dyes ?? [];
  const bars = song.parts.at(-1);
  const last = bars ? bars.bar + bars.bars - 1 : 1;
  const put = (key: number, part: Partial<Sections[number]>) =>
    onKeep(
      sections.map((one) => (one.key === key ? { ...one, ...part } : one)).sort((a, b) => a.bar - b.bar),
    );
  const add = () => {
    const key = Math.max(0, ...sections.map((one) => one.key)) + 1;
    const before = sections.at(-1)?.bar ?? 0;
    const bar =
      sections.length === 0 ? 1 : Math.min(last, before + Math.max(1, Math.round((last - before) / 2)));
    onKeep([...sections, { key, name: `Section ${key}`, bar }]);
  };
  const onKey = (event: KeyboardEvent, key: number, bar: number) => {
    const by = { ArrowLeft: -1, ArrowRight: 1, ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!by || !event.altKey) return;
    event.preventDefault();
    put(key, { bar: Math.max(1, bar + by) });
  };
  return (
    <div>
      <table className={cx(styles.plain, styles.stacked)}>
        <thead>
          <tr>
            <th>Section</th>
            <th>From bar</th>
            <th>Offset (samples)</th>
            <th>Dye</th>
            <th>Click</th>
            <th>Guide text</th>
            <td />
          </tr>
        </thead>
        <tbody>
          {sections.map((one) => (
            <tr key={one.key} onKeyDown={(event) => onKey(event, one.key, one.bar)}>
              <td data-head="Section">
                <Cell
                  label={`Name of section ${one.key}`}
                  value={one.name}
                  onKeep={(name) => put(one.key, { name })}
                />
              </td>
              <td data-head="From bar">
                <Cell
                  label={`First bar of ${one.name}`}
                  value={String(one.bar)}
                  onKeep={(text) => put(one.key, { bar: Number(text) })}
                />
              </td>
              <td data-head="Offset (samples)">
                <Cell
                  label={`Offset of ${one.name} in samples`}
                  value={String(one.shift ?? 0)}
                  onKeep={(text) => put(one.key, { shift: Number(text.replace('−', '-')) })}
                />
              </td>
              <td data-head="Dye">
                <TextField
                  select
                  size="small"
                  value={one.dye ?? 'indigo'}
                  slotProps={{ htmlInput: { 'aria-label': `Dye of ${one.name}` } }}
                  onChange={(event) => put(one.key, { dye: event.target.value })}
                >
                  {dyes.map((dye) => (
                    <MenuItem key={dye} value={dye}>
                      {dye}
                    </MenuItem>
                  ))}
                </TextField>
              </td>
              <td data-head="Click">
                <button
                  type="button"
                  className={cx(styles.chip, one.click !== false && styles.on)}
                  aria-pressed={one.click !== false}
                  onClick={() => put(one.key, { click: one.click === false })}
                >
                  {one.click === false ? 'silent' : 'counts'}
                </button>
              </td>
              <td data-head="Guide text">
                <Cell
                  label={`Guide text before ${one.name}`}
                  value={one.words ?? ''}
                  onKeep={(words) => put(one.key, { words })}
                />
              </td>
              <td className={own.kind}>
                <Button
                  size="small"
                  title={`Snap ${one.name} to the nearest zero crossing (20 ms)`}
                  disabled={one.key === sections[0]?.key}
                  onClick={() => {
                    const sample = song.parts.find((part) => part.key === one.key)?.from;
                    if (sample !== undefined) onPlace({ sample, snap: 'zero', section: one.key });
                  }}
                >
                  Snap to zero
                </Button>
                <Button
                  size="small"
                  onClick={() => onKeep(sections.filter((other) => other.key !== one.key))}
                >
                  Remove
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className={styles.row}>
        <Button size="small" onClick={add}>
          Add section
        </Button>
        {head !== null && (
          <>
            <Button size="small" onClick={() => onPlace({ sample: head(), snap: 'bar' })}>
              Split at the playhead’s bar
            </Button>
            <Button size="small" onClick={() => onPlace({ sample: head(), snap: 'zero' })}>
              Split at the playhead itself
            </Button>
          </>
        )}
        <span className={styles.hint}>
          <kbd>Alt</kbd>+<kbd>←</kbd> <kbd>→</kbd> moves a section by a bar
        </span>
      </div>
    </div>
  );
}

/** Gives the sample of the song as it is at which it plays or stands; null while another song is on. */
function usePlayhead(song: Song): (() => number) | null {
  const player = useLivePlayer();
  const items = usePlayback().data?.items ?? [];
  if (player?.song !== song.id) return null;
  const tempo = items.find((one) => one.key === player.item)?.tempo ?? 100;
  return () => {
    const at = playing()?.position ?? player.position ?? 0;
    return Math.min(song.frames - 1, Math.max(0, Math.round((at * tempo) / 100)));
  };
}

function Cell({ label, value, onKeep }: { label: string; value: string; onKeep: (text: string) => void }) {
  return (
    <TextField
      key={value}
      size="small"
      defaultValue={value}
      slotProps={{ htmlInput: { 'aria-label': label } }}
      onBlur={(event) => event.target.value !== value && onKeep(event.target.value)}
      onKeyDown={(event) => event.key === 'Enter' && (event.target as HTMLInputElement).blur()}
    />
  );
}
