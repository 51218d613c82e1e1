import Checkbox from '@mui/material/Checkbox';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { api, type Show, type SongPlan, taken } from '../../../api/client';
import { useCommand } from '../../../api/edits';
import { refresh } from '../../../api/queries';
import { dialogOf } from '../../../app/dialogs/dialogOf';
import { ImportActions, ImportSteps, type Scan } from '../../../app/controls/ImportSteps';
import { LeftOut } from '../../../app/controls/LeftOut';
import { lookedInto } from '../../../app/controls/SourcePick';
import { count } from '../../../look/format';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';
import own from '../playback.module.css';

interface BringProps {
  show: Show;
  onClose: () => void;
}

const planOf = (id: string, onSeen: (files: number) => void) =>
  lookedInto<SongPlan>(() => taken(api.GET('/api/song-looks/{id}', { params: { path: { id } } })), onSeen);

/** Imports a folder of stems as a song: scan it, correct its roles, then import. */
export const BringSongDialog = dialogOf(
  function BringSong({ onClose }: BringProps) {
    return (
      <>
        <DialogTitle>Import a song</DialogTitle>
        <ImportSteps
          words="The stems of one song, any format or sample rate, or a ZIP file. A MIDI file supplies tempos and sections. Preview before importing."
          files="Stems of a song"
          folderLabel="Or a folder or ZIP file on this computer"
          placeholder="/media/disk/ropewalk"
          planOf={planOf}
          onClose={onClose}
        >
          {(scan) => <Plan {...scan} />}
        </ImportSteps>
      </>
    );
  },
  { maxWidth: 'md', fullWidth: true },
);

function Plan({ look, plan, onBack, onDone }: Scan<SongPlan>) {
  const [name, setName] = useState(plan.name);
  const [bpm, setBpm] = useState(plan.bpm === null ? '' : String(plan.bpm));
  const [stems, setStems] = useState(plan.stems.map((stem) => ({ role: stem.role, wanted: true })));
  const change = (at: number, part: Partial<{ role: string; wanted: boolean }>) =>
    setStems(stems.map((one, nth) => (nth === at ? { ...one, ...part } : one)));
  const wanted = plan.stems.flatMap((stem, at) =>
    stems[at]?.wanted ? [{ files: stem.files, role: stems[at].role.trim() || stem.role }] : [],
  );
  const tempo = Number(bpm.replace(',', '.'));
  const bring = useCommand(async () => {
    const body = { look, name: name.trim(), stems: wanted, ...(bpm.trim() ? { bpm: tempo } : {}) };
    await taken(api.POST('/api/songs/bring-in', { body }));
    await refresh('exports');
    onDone();
  });
  return (
    <>
      <DialogContent>
        <div className={styles.stack}>
          <div className={styles.row}>
            <TextField
              label="Name of the song"
              size="small"
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
            <TextField
              label="Tempo"
              size="small"
              value={bpm}
              placeholder={plan.midi ? 'from the MIDI file' : 'detected by the beat tracker'}
              helperText={
                plan.midi
                  ? `tempos and sections from ${plan.midi}`
                  : 'quarter notes per minute; empty: detected'
              }
              onChange={(event) => setBpm(event.target.value)}
            />
          </div>
          <table className={cx(styles.plain, styles.stacked)}>
            <thead>
              <tr>
                <td />
                <th>Files</th>
                <th>Role</th>
                <td />
              </tr>
            </thead>
            <tbody>
              {plan.stems.map((stem, at) => (
                <tr key={stem.files.join()}>
                  <td data-head="Take">
                    <Checkbox
                      checked={stems[at]?.wanted ?? false}
                      slotProps={{ input: { 'aria-label': `Import ${stem.names[0]}` } }}
                      onChange={(event) => change(at, { wanted: event.target.checked })}
                    />
                  </td>
                  <td data-head="Files" data-wide>
                    {stem.names.join(' + ')}
                    {stem.notes.map((note) => (
                      <div key={note} className={styles.quiet}>
                        {note}
                      </div>
                    ))}
                  </td>
                  <td data-head="Role">
                    <TextField
                      size="small"
                      value={stems[at]?.role ?? ''}
                      slotProps={{ htmlInput: { 'aria-label': `Role of ${stem.names[0]}`, maxLength: 40 } }}
                      onChange={(event) => change(at, { role: event.target.value })}
                    />
                  </td>
                  <td className={cx(styles.quiet, own.kind)}>
                    {stem.lanes === 2 ? 'stereo' : 'mono'}
                    {stem.kind !== 'parts' && ` · ${stem.kind}`}
                    {!stem.known && <span className={styles.inLook}> new role</span>}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <LeftOut problems={plan.problems} />
        </div>
      </DialogContent>
      <ImportActions
        label={`Import ${count(wanted.length, 'stem')}`}
        disabled={
          wanted.length === 0 ||
          name.trim() === '' ||
          bring.isPending ||
          (bpm.trim() !== '' && !(tempo >= 20 && tempo <= 400))
        }
        onBack={onBack}
        onImport={() => bring.mutate(undefined)}
      />
    </>
  );
}
