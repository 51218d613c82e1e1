import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { PlaybackItem, Song } from '../../../api/client';
import { set } from '../../../api/edits';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';
import { TempoAndKey } from './TempoAndKey';
import own from '../playback.module.css';

/** How the song goes tonight, without the song being touched: what follows it, sections left out or played more often,
 * another tempo or key. */
export function Tonight({ song, item }: { song: Song; item: PlaybackItem }) {
  const put = (field: string, value: unknown) => void set({ [`setlist/${item.key}/${field}`]: value });
  const skip = (key: number) =>
    put('skips', item.skips.includes(key) ? item.skips.filter((one) => one !== key) : [...item.skips, key]);
  const repeat = (key: number, times: number) => {
    const rest = Object.fromEntries(Object.entries(item.repeats).filter(([one]) => one !== String(key)));
    put('repeats', times > 1 ? { ...rest, [key]: times } : rest);
  };
  return (
    <details className={own.tonights}>
      <summary>Tonight</summary>
      <div className={styles.row}>
        <TextField
          select
          size="small"
          label="Next song"
          value={item.follows}
          onChange={(event) => put('follows', event.target.value)}
        >
          <MenuItem value="hand">manual start</MenuItem>
          <MenuItem value="on">start at once</MenuItem>
          <MenuItem value="pause">start after a pause</MenuItem>
        </TextField>
        {item.follows === 'pause' && (
          <TextField
            size="small"
            label="Pause (s)"
            type="number"
            defaultValue={item.pause}
            onBlur={(event) => put('pause_s', Number(event.target.value))}
          />
        )}
        <TempoAndKey song={song} item={item} />
      </div>
      <ul className={own.plays}>
        {song.parts.map((part) => (
          <li key={part.key}>
            <button
              type="button"
              className={cx(styles.chip, !item.skips.includes(part.key) && styles.on)}
              aria-pressed={!item.skips.includes(part.key)}
              onClick={() => skip(part.key)}
            >
              {part.name}
            </button>
            <TextField
              select
              size="small"
              aria-label={`How often ${part.name} is played`}
              value={item.repeats[part.key] ?? 1}
              disabled={item.skips.includes(part.key)}
              onChange={(event) => repeat(part.key, Number(event.target.value))}
            >
              {[1, 2, 3, 4, 6, 8].map((times) => (
                <MenuItem key={times} value={times}>
                  ×{times}
                </MenuItem>
              ))}
            </TextField>
          </li>
        ))}
      </ul>
    </details>
  );
}
