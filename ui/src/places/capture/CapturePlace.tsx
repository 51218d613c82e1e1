import { useCallback, useMemo, useRef } from 'react';
import { api, taken, type Track } from '../../api/client';
import { useCommand } from '../../api/edits';
import { useLiveState } from '../../api/live';
import { useShow } from '../../api/queries';
import { arm } from './arming';
import { ArmTools } from './ArmTools';
import { LaneRow } from './LaneRow';
import { LeftOut } from './LeftOut';
import { Marking } from './Marking';
import { TakeList } from './takes/TakeList';
import { Transport } from './Transport';
import { StateNote } from '../../app/status/StateNote';
import { Away } from '../../app/status/Away';

/** Transport, tracks with arming, history and level, and the list of takes. */
export default function CapturePlace() {
  const show = useShow().data;
  const state = useLiveState();
  const capture = state?.recorder.capture ?? null;
  const last = useRef<number | null>(null);
  const { mutate } = useCommand((body: { tracks: number[]; resting: boolean }) =>
    taken(api.POST('/api/capture/rest', { body })),
  );
  const tracks = useMemo(() => show?.tracks.filter((track) => track.inputs.length > 0) ?? [], [show]);
  // With Shift, all from the one before to this one. Always the same functions, so that only lanes that change are drawn again.
  const armOne = useCallback(
    (track: Track, range: boolean) => {
      const at = tracks.indexOf(track);
      const from = range ? (last.current ?? at) : at;
      void arm(tracks.slice(Math.min(from, at), Math.max(from, at) + 1), !track.armed);
      last.current = at;
    },
    [tracks],
  );
  const restOne = useCallback(
    (track: Track, resting: boolean) => mutate({ tracks: [track.number], resting }),
    [mutate],
  );
  if (!show) return null;
  return (
    <>
      <main>
        <Away of={['recorder']} />
        <Transport armed={tracks.filter((track) => track.armed)} />
        <LeftOut show={show} />
        {capture ? (
          <Marking capture={capture} guarded={state?.recorder.guarded ?? true} rate={state?.rate ?? 48000} />
        ) : (
          <ArmTools tracks={tracks} />
        )}
        {tracks.map((track) => (
          <LaneRow
            key={track.number}
            track={track}
            resting={capture ? capture.resting.includes(track.number) : null}
            onArm={armOne}
            onRest={restOne}
          />
        ))}
        {tracks.length === 0 && (
          <StateNote kind="empty">
            No track has an input yet. <a href="#/patch">Patch card sends to tracks</a> first.
          </StateNote>
        )}
      </main>
      <TakeList />
    </>
  );
}
