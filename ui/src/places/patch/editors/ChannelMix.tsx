import { change } from '../../../api/careful';
import type { Channel } from '../../../api/client';
import { useOutputs } from '../../../api/queries';
import styles from '../../../look/look.module.css';

/** The routing of a channel in the mix: main, subgroups and polarity. */
export function ChannelMix({ channel }: { channel: Channel }) {
  const outputs = useOutputs().data;
  const at = `channel/${channel.number}`;
  const put = (field: string, value: unknown) => change({ [`${at}/${field}`]: value });
  const groups = outputs?.buses.filter((one) => one.mode === 'subgroup') ?? [];
  return (
    <fieldset className={styles.ticks}>
      <legend className={styles.hint}>In the mix</legend>
      <Tick label="On main" on={channel.main} onChange={(on) => put('main', on)} />
      <Tick label="Polarity inverted" on={channel.polarity} onChange={(on) => put('polarity', on)} />
      {groups.map(({ number, name }) => (
        <Tick
          key={number}
          label={`In subgroup ${[number, name].filter(Boolean).join(' ')}`}
          on={channel.groups.includes(number)}
          onChange={(on) =>
            put('groups', on ? [...channel.groups, number] : channel.groups.filter((one) => one !== number))
          }
        />
      ))}
    </fieldset>
  );
}

function Tick({ label, on, onChange }: { label: string; on: boolean; onChange: (on: boolean) => void }) {
  return (
    <label>
      <input type="checkbox" checked={on} onChange={(event) => onChange(event.target.checked)} /> {label}
    </label>
  );
}
