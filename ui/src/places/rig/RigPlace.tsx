import Button from '@mui/material/Button';
import { useState } from 'react';
import { useRig, useShow } from '../../api/queries';
import { useJump } from '../../app/shell/jump';
import { DevicePanel } from './DevicePanel';
import { Diagram } from './Diagram';
import { ProfilesDialog } from './ProfilesDialog';
import { QueryState } from '../../app/status/QueryState';
import { Away } from '../../app/status/Away';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './rig.module.css';

/** Stage, desk and computer in one line, and how full every link is. */
export default function RigPlace() {
  const show = useShow().data;
  const asked = useRig();
  const rig = asked.data;
  const [chosen, choose] = useState('desk');
  const [profiles, openProfiles] = useState(false);
  useJump('rig', (setting) => choose(deviceOf(setting)));
  if (!show) return null;
  if (!rig)
    return (
      <main>
        <QueryState of={asked} waiting="Reading the rig …">
          {() => null}
        </QueryState>
      </main>
    );
  return (
    <>
      <main>
        <QueryState of={asked} waiting="Reading the rig …">
          {() => <Away of={['desk', 'recorder']} />}
        </QueryState>
        <div className={styles.tools}>
          <span className={styles.hint}>
            Select a device to edit it. Lanes: planned / with a socket / carried.
          </span>
          <Button variant="outlined" className={styles.end} onClick={() => openProfiles(true)}>
            Device profiles…
          </Button>
        </div>
        <Diagram rig={rig} chosen={chosen} onChoose={choose} />
        {rig.missing.length > 0 && (
          <section className={own.missingRuns} aria-label="Missing sockets">
            <h2>Missing sockets: patchable, but not in this rig</h2>
            <ul>
              {rig.missing.map((run) => (
                <li key={run.label}>
                  <strong>{run.label}</strong> <span className={styles.quiet}>{run.why}</span>
                </li>
              ))}
            </ul>
          </section>
        )}
        <p className={cx(styles.hint, styles.apart)}>
          Output patching, buses and delays are set in <a href="#/outputs">Outputs</a>.
        </p>
      </main>
      <DevicePanel rig={rig} show={show} chosen={chosen} />
      <ProfilesDialog open={profiles} onClose={() => openProfiles(false)} />
    </>
  );
}

/** The device at which a setting is changed. */
function deviceOf(setting: string): string {
  const [kind, key = ''] = setting.split('/');
  if (kind === 'box') return key;
  return kind === 'setup' || setting === 'rig/recorder_clock' ? 'recorder' : 'desk';
}
