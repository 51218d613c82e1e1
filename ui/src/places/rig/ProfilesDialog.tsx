import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useState } from 'react';
import { api, type Fault, Refused, type Schemas, taken } from '../../api/client';
import { complain, useCommand } from '../../api/edits';
import { tell } from '../../api/notices';
import { refresh, useProfiles } from '../../api/queries';
import { Faults } from '../../app/dialogs/Faults';
import { readJson } from '../../app/controls/files';
import { SureButton } from '../../app/controls/SureButton';
import { QueryState } from '../../app/status/QueryState';
import { FilePick } from '../../app/controls/FilePick';
import { dialogOf } from '../../app/dialogs/dialogOf';
import styles from '../../look/look.module.css';

type Entry = Schemas['ProfileEntry'];
const KINDS = { desk: 'Desks', box: 'Stage boxes', interface: 'Playback interfaces' } as const;

function Inside({ onClose }: { onClose: () => void }) {
  const asked = useProfiles();
  const [faults, setFaults] = useState<Fault[]>([]);
  const after = () => refresh('profiles', 'rig');
  const bring = async (file: File | undefined) => {
    if (!file) return;
    setFaults([]);
    try {
      const { id } = await taken(api.POST('/api/profiles', { body: { profile: await readJson(file) } }));
      tell({ kind: 'info', text: `Profile ${id} imported.` });
      await after();
    } catch (error) {
      if (error instanceof Refused) setFaults(error.faults);
      complain(error);
    }
  };
  const remove = useCommand(async (id: string) => {
    await taken(api.DELETE('/api/profiles/{id}', { params: { path: { id } } }));
    await after();
  });
  return (
    <>
      <DialogTitle>Device profiles</DialogTitle>
      <DialogContent>
        <p>
          A profile is a JSON file that describes a device type. Save one, edit it, give it a new id and
          import it. Errors are listed with their position.
        </p>
        <FilePick
          label="Profile file"
          accept=".json,application/json"
          className={styles.apart}
          onPick={([file]) => void bring(file)}
        >
          Import a profile
        </FilePick>
        <Faults faults={faults} />
        <QueryState of={asked} waiting="Reading the profiles …">
          {(profiles) =>
            (Object.keys(KINDS) as Entry['kind'][]).map((kind) => (
              <section key={kind}>
                <h3 className={styles.apart}>{KINDS[kind]}</h3>
                <ul className={styles.list}>
                  {profiles
                    .filter((one) => one.kind === kind)
                    .map((one) => (
                      <li key={one.id}>
                        <span>
                          {one.name}{' '}
                          <span className={styles.quiet}>
                            {one.shipped ? 'ships with Loomshuttle' : `${one.id}, imported`}
                          </span>
                        </span>
                        <span className={styles.row}>
                          {!one.shipped && (
                            <SureButton what={one.name} onSure={() => remove.mutate(one.id)} />
                          )}
                          <a download={`${one.id}.json`} href={asFile(one.data)}>
                            Save
                          </a>
                        </span>
                      </li>
                    ))}
                </ul>
              </section>
            ))
          }
        </QueryState>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </>
  );
}

const asFile = (data: unknown) =>
  `data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify(data, null, 2))}`;

/** What kinds of devices there are: those that ship, and those that users brought. */
export const ProfilesDialog = dialogOf(Inside, { maxWidth: 'sm', fullWidth: true });
