import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { api, type Take, taken } from '../../../api/client';
import { useCommand } from '../../../api/edits';
import { refreshTakes, useShow } from '../../../api/queries';
import { clock, count, moment, size } from '../../../look/format';
import { Dyes } from '../../../app/controls/Dyes';
import { ExportPanel } from './ExportPanel';
import { Listen } from './Listen';
import { MarkerTable } from './MarkerTable';
import { Missing } from './Missing';
import type { Part } from './Placing';
import { STATES, withMarker } from './takes';
import { Waveform } from './Waveform';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';
import own from '../capture.module.css';

type Change = Partial<Pick<Take, 'name' | 'notes' | 'markers'>> & {
  colour?: string;
  tracks?: { number: number; name: string }[];
};

/** A take: waveform, listening, notes and markers. */
export function TakeDialog({ take, onClose }: { take: Take; onClose: () => void }) {
  const change = useCommand(async (body: Change) => {
    await taken(api.POST('/api/takes/{take}', { params: { path: { take: take.id } }, body }));
    refreshTakes();
  });
  const capturing = take.state === 'capturing';
  const readable = take.state !== 'unreadable';
  return (
    <Dialog open onClose={onClose} maxWidth="lg" fullWidth>
      <DialogTitle>
        Take {take.number} {take.name}
      </DialogTitle>
      <DialogContent>
        <div className={own.takeDialog}>
          {readable && <Facts take={take} />}
          {take.note && <p className={cx(styles.note, styles.look)}>{take.note}</p>}
          {readable && <Sound take={take} change={change.mutate} />}
        </div>
      </DialogContent>
      <DialogActions>
        {!capturing && <Discard take={take} onDone={onClose} />}
        <span className={cx(styles.quiet, own.takeFolder)}>{take.folder}</span>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

function Facts({ take }: { take: Take }) {
  return (
    <p className={cx(styles.figure, styles.quiet)}>
      {[
        moment(take.started_at),
        clock(take.frames / take.rate),
        count(take.tracks.length, 'track'),
        `${take.rate / 1000} kHz, ${take.bits === 32 ? '32-bit float' : `${take.bits}-bit`}`,
        size(take.bytes),
        STATES[take.state],
      ]
        .filter(Boolean)
        .join(' · ')}
    </p>
  );
}

/** Its picture, its sound, words and markers, and what leaves with it. */
function Sound({ take, change }: { take: Take; change: (body: Change) => void }) {
  const [track, setTrack] = useState<number | null>(null);
  const [chosen, choose] = useState<Part | null>(null);
  const add = (word: string, at: number, frames: number) =>
    change({
      markers: withMarker(take.markers, { at, frames, name: `${word} ${take.markers.length + 1}` }),
    });
  const mark = () => chosen && add('Marker', chosen.from, 0);
  const section = () =>
    chosen && chosen.to > chosen.from && add('Section', chosen.from, chosen.to - chosen.from);
  const capturing = take.state === 'capturing';
  return (
    <>
      <Missing take={take} />
      <Waveform
        take={take}
        track={track}
        chosen={chosen}
        onChoose={choose}
        onMark={mark}
        onSection={section}
      />
      <Listen take={take} track={track} onTrack={setTrack} from={chosen?.from ?? 0}>
        {!capturing && <TrackName key={track} take={take} track={track} onChange={change} />}
      </Listen>
      {!capturing && <TakeWords take={take} onChange={change} />}
      {!capturing && <ExportPanel take={take} chosen={chosen} />}
      <MarkerTable take={take} onChange={(markers) => change({ markers })} />
    </>
  );
}

interface TrackNameProps {
  take: Take;
  track: number | null;
  onChange: (words: Change) => void;
}

/** What the chosen track is called, kept when the field is left; exports have it. */
function TrackName({ take, track, onChange }: TrackNameProps) {
  const was = take.tracks.find((one) => one.number === track)?.name;
  const [name, setName] = useState(was ?? '');
  if (track === null || was === undefined) return null;
  const keep = () => name.trim() !== '' && name !== was && onChange({ tracks: [{ number: track, name }] });
  return (
    <TextField
      label={`Name of track ${track}`}
      size="small"
      value={name}
      slotProps={{ htmlInput: { maxLength: 60 } }}
      onChange={(event) => setName(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => event.key === 'Enter' && (event.target as HTMLInputElement).blur()}
    />
  );
}

/** Name, notes and dye, kept when the field is left. */
function TakeWords({ take, onChange }: { take: Take; onChange: (words: Change) => void }) {
  const dyes = useShow().data?.profile.dyes ?? [];
  const [name, setName] = useState(take.name);
  const [notes, setNotes] = useState(take.notes);
  return (
    <div className={own.takeWords}>
      <TextField
        label="Name"
        size="small"
        value={name}
        onChange={(event) => setName(event.target.value)}
        onBlur={() => name.trim() !== '' && name !== take.name && onChange({ name })}
      />
      <TextField
        label="Notes"
        size="small"
        multiline
        value={notes}
        onChange={(event) => setNotes(event.target.value)}
        onBlur={() => notes !== take.notes && onChange({ notes })}
      />
      <Dyes dyes={dyes} value={take.colour} onChoose={(colour) => onChange({ colour })} />
    </div>
  );
}

function Discard({ take, onDone }: { take: Take; onDone: () => void }) {
  const discard = useCommand(async () => {
    await taken(api.POST('/api/takes/{take}/discard', { params: { path: { take: take.id } }, body: {} }));
    onDone();
    refreshTakes();
  });
  const [asked, ask] = useState(false);
  return (
    <Button
      color={asked ? 'error' : 'primary'}
      onBlur={() => ask(false)}
      onClick={() => (asked ? discard.mutate(undefined) : ask(true))}
    >
      {asked ? 'Move to bin' : 'Delete take…'}
    </Button>
  );
}
