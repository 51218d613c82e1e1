import { useEffect, useRef } from 'react';
import { change } from '../../../api/careful';
import type { Outputs } from '../../../api/client';
import { TextSetting } from '../../../app/controls/Fields';
import { cx } from '../../../look/cx';
import { count } from '../../../look/format';
import styles from '../../../look/look.module.css';
import own from '../outputs.module.css';

type Bus = Outputs['buses'][number];

/** What each bus is for: a mix or a subgroup, where it send tap, whether it is on main or one of a pair. */
export function BusTable({ outputs, sought }: { outputs: Outputs; sought: string }) {
  const row = useRef<HTMLTableElement>(null);
  const number = /^bus\/(\d+)\//.exec(sought)?.[1];
  useEffect(() => {
    if (number) row.current?.querySelector<HTMLElement>(`[data-bus="${number}"] input`)?.focus();
  }, [number]);
  const groups = outputs.buses.filter((one) => one.mode === 'subgroup');
  return (
    <section aria-label="Buses" className={own.section}>
      <h2>Buses</h2>
      <table ref={row} className={cx(styles.plain, styles.stacked, own.sheet)}>
        <thead>
          <tr>
            <th>Bus</th>
            <th>Name</th>
            <th>Type</th>
            <th>Send tap</th>
            <th>On main</th>
            <th>Paired with next</th>
            <th>Members</th>
          </tr>
        </thead>
        <tbody>
          {outputs.buses.map((bus) => (
            <BusRow key={bus.number} bus={bus} outputs={outputs} />
          ))}
        </tbody>
      </table>
      {groups.length === 0 && <p className={styles.hint}>Assign channels to subgroups in Patch.</p>}
    </section>
  );
}

function BusRow({ bus, outputs }: { bus: Bus; outputs: Outputs }) {
  const path = `bus/${bus.number}`;
  const { mixing } = outputs.can;
  return (
    <tr data-bus={bus.number}>
      <td data-head="Bus" className={styles.figure}>
        {bus.number}
      </td>
      <td data-head="Name">
        <TextSetting label={`Name of bus ${bus.number}`} path={`${path}/name`} value={bus.name} />
      </td>
      {bus.right_of !== null ? (
        <td colSpan={5} className={styles.quiet}>
          right of bus {bus.right_of}
        </td>
      ) : (
        <>
          <td data-head="Type">
            <select
              className={own.pick}
              aria-label={`Type of bus ${bus.number}`}
              value={bus.mode}
              disabled={!mixing.subgroups}
              onChange={(event) => change({ [`${path}/mode`]: event.target.value })}
            >
              <option value="mix">mix</option>
              <option value="subgroup">subgroup</option>
            </select>
          </td>
          <td data-head="Send tap">
            {bus.mode === 'subgroup' ? (
              <span className={styles.quiet}>post-fader</span>
            ) : (
              <select
                className={own.pick}
                aria-label={`Bus ${bus.number} send tap`}
                value={bus.tap}
                disabled={mixing.send_taps.length < 2}
                onChange={(event) => change({ [`${path}/tap`]: event.target.value })}
              >
                {mixing.send_taps.map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.label}
                  </option>
                ))}
              </select>
            )}
          </td>
          <td data-head="On main">
            <input
              type="checkbox"
              aria-label={`Bus ${bus.number} on main`}
              checked={bus.main}
              disabled={!mixing.bus_to_main}
              onChange={(event) => change({ [`${path}/main`]: event.target.checked })}
            />
          </td>
          <td data-head="Paired with next">
            <input
              type="checkbox"
              aria-label={`Bus ${bus.number} paired with next`}
              checked={bus.paired}
              disabled={!bus.can_pair}
              onChange={(event) => change({ [`${path}/paired`]: event.target.checked })}
            />
          </td>
          <td data-head="Members" className={styles.quiet}>
            {bus.mode === 'subgroup' && count(bus.channels, 'channel')}
          </td>
        </>
      )}
    </tr>
  );
}
