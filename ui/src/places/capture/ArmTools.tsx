import Button from '@mui/material/Button';
import { useEffect, useState } from 'react';
import type { Track } from '../../api/client';
import { count } from '../../look/format';
import { forgetClips } from '../../meters/levels';
import { arm, hadSignal } from './arming';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './capture.module.css';

/** Arms many at once, and points at armed tracks that nobody plays into, so that nobody has to sort empty files later. */
export function ArmTools({ tracks }: { tracks: Track[] }) {
  const heard = useHeard(tracks);
  const armed = tracks.filter((track) => track.armed);
  const silent = armed.filter((track) => heard.get(track.number) === false);
  const withSignal = () => {
    const playing = tracks.filter((track) => hadSignal(track));
    void arm(playing, true).then(() =>
      arm(
        tracks.filter((track) => !playing.includes(track)),
        false,
      ),
    );
  };
  return (
    <>
      <div className={styles.tools}>
        <Button variant="outlined" onClick={() => void arm(tracks, true)}>
          Arm all
        </Button>
        <Button variant="outlined" onClick={() => void arm(tracks, false)}>
          Arm none
        </Button>
        <Button variant="outlined" onClick={withSignal}>
          Arm tracks with signal
        </Button>
        <Button variant="outlined" onClick={forgetClips}>
          Clear clips
        </Button>
        <span className={cx(styles.hint, styles.figure)}>
          {armed.length} of {tracks.length} armed · <kbd>Shift</kbd> arms a range
        </span>
      </div>
      {silent.length > 0 && (
        <p className={cx(own.silentHint, styles.inLook)}>
          {silent.length === 1 ? 'One armed track' : count(silent.length, 'armed track')} had no signal in the
          last minute: {silent.map((track) => track.title).join(', ')}.{' '}
          <Button size="small" onClick={() => void arm(silent, false)}>
            Disarm {silent.length === 1 ? 'it' : 'them'}
          </Button>
        </p>
      )}
    </>
  );
}

/** Which tracks had a signal; looked at now and then, since it comes past React. */
function useHeard(tracks: Track[]): Map<number, boolean | null> {
  const [heard, setHeard] = useState(new Map<number, boolean | null>());
  useEffect(() => {
    const look = () => setHeard(new Map(tracks.map((track) => [track.number, hadSignal(track)])));
    const timer = setInterval(look, 2000);
    return () => clearInterval(timer);
  }, [tracks]);
  return heard;
}
