import Button from '@mui/material/Button';
import { set, useShow } from '../../api/queries';
import { forgetClips } from '../../meters/levels';
import { LaneRow } from './LaneRow';
import { TakeList } from './TakeList';
import { Transport } from './Transport';

/** Transport, the tracks with arm, history and level, and the takes so far. */
export function CapturePlace() {
  const show = useShow().data;
  if (!show) return null;
  const tracks = show.tracks.filter((track) => track.inputs.length > 0);
  const armAll = (armed: boolean) => {
    const changing = tracks.filter((track) => track.armed !== armed);
    if (changing.length > 0)
      void set(
        Object.fromEntries(changing.map((track) => [`track/${track.number}/armed`, armed])),
        armed ? 'Arm all tracks' : 'Disarm all tracks',
      );
  };
  const armed = tracks.filter((track) => track.armed).length;
  return (
    <>
      <main>
        <Transport armed={armed} />
        <div className="tools">
          <Button variant="outlined" onClick={() => armAll(true)}>
            Arm all
          </Button>
          <Button variant="outlined" onClick={() => armAll(false)}>
            Arm none
          </Button>
          <Button variant="outlined" onClick={forgetClips}>
            Clear clips
          </Button>
          <span className="hint figure">
            {armed} of {tracks.length} tracks armed · the last minute · held peak in dBFS
          </span>
        </div>
        {tracks.map((track) => (
          <LaneRow key={track.number} track={track} show={show} />
        ))}
        {tracks.length === 0 && (
          <p className="empty">
            No track has an input yet. <a href="#/patch">Patch card sends to tracks</a> first.
          </p>
        )}
      </main>
      <TakeList />
    </>
  );
}
