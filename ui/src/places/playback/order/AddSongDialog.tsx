import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useState } from 'react';
import type { Show } from '../../../api/client';
import { useSongs } from '../../../api/queries';
import { QueryState } from '../../../app/status/QueryState';
import { dialogOf } from '../../../app/dialogs/dialogOf';
import { StateNote } from '../../../app/status/StateNote';
import styles from '../../../look/look.module.css';
import { BringSongDialog } from '../song/BringSongDialog';
import { putIn } from './LibraryView';
import { length } from '../player';
import own from '../playback.module.css';

interface AddProps {
  show: Show;
  onClose: () => void;
}

/** Adds a song of the library to the running order, or imports one first. */
export const AddSongDialog = dialogOf(function AddSong({ show, onClose }: AddProps) {
  const songs = useSongs();
  const [bringing, bring] = useState(false);
  return (
    <>
      <DialogTitle>Add a song to the running order</DialogTitle>
      <DialogContent>
        <QueryState of={songs} waiting="Reading the songs …">
          {(list) =>
            list.length === 0 ? (
              <StateNote kind="empty">This computer has no songs yet; bring in a folder of stems.</StateNote>
            ) : (
              <ul className={own.pick}>
                {list
                  .filter((song) => song.version > 0)
                  .map((song) => (
                    <li key={song.id}>
                      <button
                        type="button"
                        className={own.card}
                        data-dye={song.dye}
                        onClick={() => void putIn(song.id).then((done) => done && onClose())}
                      >
                        <strong>{song.name}</strong>
                        <span className={styles.quiet}>
                          {length(song.seconds)} · {song.bpm} · {song.meter} · {song.roles.join(', ')}
                        </span>
                      </button>
                    </li>
                  ))}
              </ul>
            )
          }
        </QueryState>
      </DialogContent>
      <DialogActions>
        <Button onClick={() => bring(true)}>Import a song…</Button>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
      <BringSongDialog open={bringing} show={show} onClose={() => bring(false)} />
    </>
  );
});
