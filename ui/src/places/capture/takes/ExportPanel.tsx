import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { api, type Take, type TakeMarker, taken } from '../../../api/client';
import { useCommand } from '../../../api/edits';
import { refresh, useExportPlaces, useExports } from '../../../api/queries';
import { JobList } from '../../../app/status/JobList';
import { clock, count, size } from '../../../look/format';
import type { Part } from './Placing';
import { useBetween } from './useBetween';
import styles from '../../../look/look.module.css';
import own from '../capture.module.css';

interface PanelProps {
  take: Take;
  /** The part that is chosen in the picture. */
  chosen: Part | null;
}

/** Values of the field Part, beside the sections' own. */
const WHOLE = 'whole';
const CHOSEN = 'chosen';
const BETWEEN = 'between';

/** How the sound is written, as the API has it. */
const SOUNDS = {
  captured: 'as captured',
  '24': '24-bit WAV',
  '16': '16-bit WAV, dithered',
  flac: 'FLAC',
  together: 'one WAV, all tracks',
} as const;
type Sound = keyof typeof SOUNDS;

/** Places in the list would move when another section is made. */
const keyOf = (section: TakeMarker) => `${section.at} ${section.frames}`;

/** Leave with it: the whole take or a section, as a ZIP or a folder; and what was packed of it so far. */
export function ExportPanel({ take, chosen }: PanelProps) {
  const sections = take.markers.filter((marker) => marker.frames > 0);
  const wide = chosen !== null && chosen.to > chosen.from;
  const [wanted, setPart] = useState<string>(WHOLE);
  const section = sections.find((one) => keyOf(one) === wanted);
  const between = useBetween(take);
  const open = section || (wanted === CHOSEN && wide) || (wanted === BETWEEN && between.able);
  const part = open ? wanted : WHOLE;
  const [sound, setSound] = useState<Sound>('captured');
  const [tracks, setTracks] = useState<number[]>([]);
  const [form, setForm] = useState<'zip' | 'folder'>('zip');
  const [folder, setFolder] = useState<string | null>(null);
  const exports =
    useExports().data?.filter((one) => one.kind === 'export' && one.number === take.number) ?? [];
  const pack = useCommand(async () => {
    const range = section
      ? { from: section.at, to: section.at + section.frames, part: section.name }
      : part === CHOSEN && chosen
        ? { ...chosen, part: 'part' }
        : part === BETWEEN
          ? between.range
          : {};
    const some = tracks.length === 0 ? {} : { tracks };
    await taken(
      api.POST('/api/exports', { body: { take: take.id, form, sound, folder, ...range, ...some } }),
    );
    await refresh('exports');
  });
  return (
    <section aria-label="Export">
      <div className={styles.row}>
        <TextField
          select
          size="small"
          label="Part"
          className={own.exportWhat}
          value={part}
          onChange={(event) => setPart(event.target.value)}
        >
          <MenuItem value={WHOLE}>the whole take</MenuItem>
          {wide && (
            <MenuItem value={CHOSEN}>the selection, {clock((chosen.to - chosen.from) / take.rate)}</MenuItem>
          )}
          {between.able && <MenuItem value={BETWEEN}>from marker to marker</MenuItem>}
          {sections.map((one) => (
            <MenuItem key={keyOf(one)} value={keyOf(one)}>
              {one.name}, {clock(one.frames / take.rate)}
            </MenuItem>
          ))}
        </TextField>
        {part === BETWEEN && between.fields}
        <TextField
          select
          size="small"
          label="Tracks"
          className={own.exportAs}
          value={tracks}
          onChange={(event) => setTracks(event.target.value as unknown as number[])}
          slotProps={{
            inputLabel: { shrink: true },
            select: { multiple: true, displayEmpty: true, renderValue: () => trackWords(take, tracks) },
          }}
        >
          {take.tracks.map((one) => (
            <MenuItem key={one.number} value={one.number}>
              <Checkbox size="small" checked={tracks.includes(one.number)} />
              {one.number} {one.name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          size="small"
          label="Sound"
          className={own.exportAs}
          value={sound}
          onChange={(event) => setSound(event.target.value as Sound)}
        >
          {Object.entries(SOUNDS).map(([id, words]) => (
            <MenuItem key={id} value={id}>
              {words}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          size="small"
          label="As"
          className={own.exportBits}
          value={form}
          onChange={(event) => setForm(event.target.value === 'zip' ? 'zip' : 'folder')}
        >
          <MenuItem value="zip">a ZIP</MenuItem>
          <MenuItem value="folder">a folder</MenuItem>
        </TextField>
        <ExportTo folder={folder} onFolder={setFolder} />
        <Button variant="outlined" disabled={folder?.trim() === ''} onClick={() => pack.mutate(undefined)}>
          Export
        </Button>
        <span className={styles.quiet}>with markers, patch sheet and checksums</span>
      </div>
      <JobList jobs={exports} />
    </section>
  );
}

const HERE = 'here';
const OTHER = 'other';

/** Where it goes: it stays here to be fetched, or lies on a disk that is plugged in, or in a folder. */
function ExportTo({
  folder,
  onFolder,
}: {
  folder: string | null;
  onFolder: (folder: string | null) => void;
}) {
  const places = useExportPlaces().data ?? [];
  const [typing, setTyping] = useState(false);
  const choose = (to: string) => {
    setTyping(to === OTHER);
    onFolder(to === HERE ? null : to === OTHER ? '' : to);
  };
  return (
    <>
      <TextField
        select
        size="small"
        label="To"
        className={own.exportTo}
        value={typing ? OTHER : (folder ?? HERE)}
        onChange={(event) => choose(event.target.value)}
      >
        <MenuItem value={HERE}>Download</MenuItem>
        {places.map((place) => (
          <MenuItem key={place.folder} value={place.folder}>
            {place.name}, {size(place.free_bytes)} free
          </MenuItem>
        ))}
        <MenuItem value={OTHER}>a folder…</MenuItem>
      </TextField>
      {typing && (
        <TextField
          size="small"
          label="Folder on the recording computer"
          className={own.exportFolder}
          placeholder="/media/disk/saturday"
          value={folder ?? ''}
          onChange={(event) => onFolder(event.target.value)}
        />
      )}
    </>
  );
}

/** all, 4 Fiddle, or 3 tracks. */
function trackWords(take: Take, chosen: number[]): string {
  if (chosen.length === 0) return 'all';
  const only = chosen.length === 1 && take.tracks.find((one) => one.number === chosen[0]);
  return only ? `${only.number} ${only.name}` : count(chosen.length, 'track');
}
