import type { Song } from '../../../api/client';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';
import { Text } from './SongFields';

/** The stems of a song: role, level, mono loss and mute. */
export function StemTable({
  song,
  onKeep,
}: {
  song: Song;
  onKeep: (stems: NonNullable<Song['stems']>) => void;
}) {
  const stems = song.stems ?? [];
  const put = (id: number, part: Partial<(typeof stems)[number]>) =>
    onKeep(stems.map((one) => (one.id === id ? { ...one, ...part } : one)));
  return (
    <table className={cx(styles.plain, styles.stacked)}>
      <thead>
        <tr>
          <th>Stem</th>
          <th>Role</th>
          <th>Level (dB)</th>
          <th>Mono loss</th>
          <td />
        </tr>
      </thead>
      <tbody>
        {stems.map((stem) => (
          <tr key={stem.id}>
            <th scope="row">{stem.name}</th>
            <td data-head="Role">
              <Text
                spoken={`Role of ${stem.name}`}
                value={stem.role}
                onKeep={(role) => role.trim() && put(stem.id, { role: role.trim() })}
              />
            </td>
            <td data-head="Level (dB)">
              <Text
                spoken={`Level of ${stem.name} in dB`}
                value={String(stem.gain_db ?? 0)}
                onKeep={(text) => put(stem.id, { gain_db: Number(text.replace('−', '-')) })}
              />
            </td>
            <td data-head="Mono loss" className={styles.figure}>
              {stem.mono_db === null || stem.mono_db === undefined
                ? 'mono'
                : stem.mono_db < -60
                  ? 'all of it'
                  : `${Math.max(0, -stem.mono_db).toFixed(1)} dB`}
            </td>
            <td>
              <button
                type="button"
                className={cx(styles.chip, !stem.mute && styles.on)}
                aria-pressed={!stem.mute}
                onClick={() => put(stem.id, { mute: !stem.mute })}
              >
                {stem.mute ? 'Muted' : 'Plays'}
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
