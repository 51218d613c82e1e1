import Button from '@mui/material/Button';
import { useState } from 'react';
import { api, type Show, taken } from '../../../api/client';
import { edit, useCommand } from '../../../api/edits';
import { refresh, useExports, useSongs } from '../../../api/queries';
import { QueryState } from '../../../app/status/QueryState';
import { JobList } from '../../../app/status/JobList';
import { SureButton } from '../../../app/controls/SureButton';
import { StateNote } from '../../../app/status/StateNote';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';
import { BringSongDialog } from '../song/BringSongDialog';
import { length } from '../player';
import { SongDialog } from '../song/SongDialog';
import own from '../playback.module.css';

/** Puts a song of the library into the running order. */
export const putIn = (song: string) =>
  edit(({ version, show }) =>
    taken(
      api.POST('/api/player/add-song', {
        body: { song, version: version ?? 0, ...(show === null ? {} : { show }) },
      }),
    ),
  );

/** Songs that are being made, and those that failed. */
function Coming() {
  const jobs = useExports().data ?? [];
  return (
    <JobList jobs={jobs.filter((job) => job.kind === 'song' && !['done', 'cancelled'].includes(job.state))} />
  );
}

/** The songs of this computer, for any show. */
export function LibraryView({ show }: { show: Show }) {
  const songs = useSongs();
  const [bringing, bring] = useState(false);
  const [changing, change] = useState<string | null>(null);
  const drop = useCommand(async (id: string) => {
    await taken(api.DELETE('/api/songs/{id}', { params: { path: { id } } }));
    await refresh('songs');
  });
  return (
    <section aria-label="Songs on this computer">
      <div className={styles.tools}>
        <Button variant="contained" size="small" onClick={() => bring(true)}>
          Import a song…
        </Button>
        <span className={styles.quiet}>Songs are stored on this computer and can be used in any show.</span>
      </div>
      <Coming />
      <QueryState of={songs} waiting="Reading the songs …">
        {(list) =>
          list.length === 0 ? (
            <StateNote kind="empty">No songs yet. Import a folder of stems.</StateNote>
          ) : (
            <div className={own.scroll}>
              <table className={cx(styles.plain, styles.stacked)}>
                <thead>
                  <tr>
                    <th>Song</th>
                    <th>Length</th>
                    <th>Tempo</th>
                    <th>Time</th>
                    <th>Sections</th>
                    <th>Stems</th>
                    <th>Loudness</th>
                    <td />
                  </tr>
                </thead>
                <tbody>
                  {list.map((song) => (
                    <tr key={song.id}>
                      <th scope="row">
                        {song.name}
                        {song.problem && <div className={styles.inStop}>{song.problem}</div>}
                      </th>
                      <td data-head="Length" className={styles.figure}>
                        {length(song.seconds)}
                      </td>
                      <td data-head="Tempo" className={styles.figure}>
                        {song.bpm}
                      </td>
                      <td data-head="Time">{song.meter}</td>
                      <td data-head="Sections" className={styles.figure}>
                        {song.sections}
                      </td>
                      <td data-head="Stems">{song.roles.join(', ')}</td>
                      <td data-head="Loudness" className={styles.figure}>
                        {song.loudness === null ? '–' : `${song.loudness.toFixed(1).replace('-', '−')} LUFS`}
                      </td>
                      <td>
                        <div className={styles.row}>
                          <Button
                            size="small"
                            disabled={song.version === 0}
                            onClick={() => void putIn(song.id)}
                          >
                            Add to running order
                          </Button>
                          <Button size="small" disabled={song.version === 0} onClick={() => change(song.id)}>
                            Song…
                          </Button>
                          <SureButton what={song.name} onSure={() => drop.mutate(song.id)} />
                        </div>
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )
        }
      </QueryState>
      <BringSongDialog open={bringing} show={show} onClose={() => bring(false)} />
      <SongDialog open={changing !== null} id={changing ?? ''} onClose={() => change(null)} />
    </section>
  );
}
