import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { type FormEvent, memo, useState } from 'react';
import { api, type Fault, Refused, type Schemas, type Show, taken } from '../../api/client';
import { complain, useCommand } from '../../api/edits';
import { refresh, refreshShow, useProfiles, useShow, useShows } from '../../api/queries';
import { mindingTake } from '../../api/ontake';
import { Faults } from './Faults';
import { readJson } from '../controls/files';
import { SureButton } from '../controls/SureButton';
import { QueryState } from '../status/QueryState';
import { FilePick } from '../controls/FilePick';
import { bothClosed } from '../controls/closed';
import styles from '../../look/look.module.css';

type About = Schemas['About'];

/** All shows of this computer: open one, start a new one (empty, like another, from a file), change the words, delete. */
export const ShowsDialog = memo(function ShowsDialog({
  open,
  onClose,
}: {
  open: boolean;
  onClose: () => void;
}) {
  const [view, setView] = useState<'list' | 'new' | 'about'>('list');
  const close = () => {
    setView('list');
    onClose();
  };
  return (
    <Dialog open={open} onClose={close} maxWidth="sm" fullWidth>
      {open && view === 'list' && <List onClose={close} onView={setView} />}
      {open && view === 'new' && <NewShow onClose={close} onBack={() => setView('list')} />}
      {open && view === 'about' && <AboutShow onBack={() => setView('list')} />}
    </Dialog>
  );
}, bothClosed);

function List({ onClose, onView }: { onClose: () => void; onView: (view: 'new' | 'about') => void }) {
  const asked = useShows();
  const openShow = useCommand(async (id: number) => {
    const opened = await mindingTake((on_take) =>
      taken(api.POST('/api/shows/{id}/open', { params: { path: { id } }, body: { on_take } })),
    );
    if (!opened) return;
    refreshShow();
    await refresh('shows');
    onClose();
  });
  const remove = useCommand(async (id: number) => {
    await taken(api.DELETE('/api/shows/{id}', { params: { path: { id } } }));
    await refresh('shows');
  });
  return (
    <>
      <DialogTitle>Shows</DialogTitle>
      <DialogContent>
        <QueryState of={asked} waiting="Reading the shows …">
          {(shows) => (
            <ul className={styles.list}>
              {shows.map((show) => (
                <li key={show.id}>
                  <span>
                    <strong>{show.about.name}</strong>
                    <br />
                    <span className={styles.quiet}>
                      {[show.about.act, show.about.place, show.about.date].filter(Boolean).join(' · ')}
                    </span>
                  </span>
                  {show.open ? (
                    <span className={styles.row}>
                      <span className={styles.quiet}>open now</span>
                      <Button size="small" onClick={() => onView('about')}>
                        Edit details…
                      </Button>
                    </span>
                  ) : (
                    <span className={styles.row}>
                      <SureButton what={show.about.name} onSure={() => remove.mutate(show.id)} />
                      <Button size="small" variant="outlined" onClick={() => openShow.mutate(show.id)}>
                        Open
                      </Button>
                    </span>
                  )}
                </li>
              ))}
            </ul>
          )}
        </QueryState>

        <p className={styles.hint}>
          Opening a show sends nothing to the desk; where they differ, the band says so.
        </p>
      </DialogContent>
      <DialogActions>
        <Button variant="contained" onClick={() => onView('new')}>
          New show…
        </Button>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </>
  );
}

function NewShow({ onClose, onBack }: { onClose: () => void; onBack: () => void }) {
  const shows = useShows().data ?? [];
  const desks = (useProfiles().data ?? []).filter((one) => one.kind === 'desk');
  const [about, setAbout] = useState<About>({ name: '' });
  const [from, setFrom] = useState('desk:alder-40');
  const [faults, setFaults] = useState<Fault[]>([]);
  const done = async () => {
    refreshShow();
    await refresh('shows', 'profiles');
    onClose();
  };
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const [kind, id = ''] = from.split(':');
    const start = kind === 'desk' ? { desk: id } : { like: Number(id) };
    try {
      const made = await mindingTake((on_take) =>
        taken(api.POST('/api/shows', { body: { about, ...start, open: true, on_take } })),
      );
      if (made) await done();
    } catch (error) {
      complain(error);
    }
  };
  const bring = async (chosen: File | undefined) => {
    if (!chosen) return;
    setFaults([]);
    try {
      const file = await readJson(chosen);
      const made = await mindingTake((on_take) =>
        taken(api.POST('/api/shows', { body: { file, open: true, on_take } })),
      );
      if (made) await done();
    } catch (error) {
      if (error instanceof Refused && error.faults.length > 0) setFaults(error.faults);
      complain(error);
    }
  };
  return (
    <form onSubmit={(event) => void submit(event)}>
      <DialogTitle>New show</DialogTitle>
      <DialogContent>
        <div className={styles.stack}>
          <AboutFields about={about} onChange={setAbout} />
          <TextField
            select
            label="Start from"
            size="small"
            value={desks.length > 0 ? from : ''}
            onChange={(event) => setFrom(event.target.value)}
            slotProps={{ select: { MenuProps: { slotProps: { paper: { style: { maxHeight: 320 } } } } } }}
          >
            {desks.map((desk) => (
              <MenuItem key={desk.id} value={`desk:${desk.id}`}>
                an empty {desk.name}
              </MenuItem>
            ))}
            {shows.map((show) => (
              <MenuItem key={show.id} value={`show:${show.id}`}>
                everything as in {show.about.name}
              </MenuItem>
            ))}
          </TextField>
          <FilePick label="Show file" accept=".json,application/json" onPick={([file]) => void bring(file)}>
            Or import a show file
          </FilePick>
          <Faults faults={faults} />
        </div>
      </DialogContent>
      <DialogActions>
        <Button onClick={onBack}>Back</Button>
        <Button type="submit" variant="contained" disabled={about.name.trim() === ''}>
          Create and open
        </Button>
      </DialogActions>
    </form>
  );
}

function AboutShow({ onBack }: { onBack: () => void }) {
  const show = useShow().data;
  return show ? <AboutForm show={show} onBack={onBack} /> : null;
}

function AboutForm({ show, onBack }: { show: Show; onBack: () => void }) {
  const [about, setAbout] = useState<About>(show.about);
  const keep = useCommand(async () => {
    await taken(api.POST('/api/shows/{id}/about', { params: { path: { id: show.id } }, body: { about } }));
    refreshShow();
    await refresh('shows');
    onBack();
  });
  return (
    <>
      <DialogTitle>About this show</DialogTitle>
      <DialogContent>
        <div className={styles.stack}>
          <AboutFields about={about} onChange={setAbout} />
        </div>
      </DialogContent>
      <DialogActions>
        <Button onClick={onBack}>Back</Button>
        <Button
          variant="contained"
          disabled={about.name.trim() === ''}
          onClick={() => keep.mutate(undefined)}
        >
          Save
        </Button>
      </DialogActions>
    </>
  );
}

const FIELDS: [keyof About, string][] = [
  ['name', 'Name of the show'],
  ['act', 'Act'],
  ['place', 'Place'],
];

function AboutFields({ about, onChange }: { about: About; onChange: (about: About) => void }) {
  return (
    <>
      {FIELDS.map(([key, label], i) => (
        <TextField
          key={key}
          label={label}
          size="small"
          autoFocus={i === 0}
          value={about[key] ?? ''}
          slotProps={{ htmlInput: { maxLength: 80 } }}
          onChange={(event) => onChange({ ...about, [key]: event.target.value })}
        />
      ))}
      <TextField
        label="Date"
        type="date"
        size="small"
        value={about.date ?? ''}
        slotProps={{ inputLabel: { shrink: true } }}
        onChange={(event) => onChange({ ...about, date: event.target.value })}
      />
    </>
  );
}
