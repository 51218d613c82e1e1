import { useState } from 'react';
import { api, type StageSocket, taken } from '../../api/client';
import { complain } from '../../api/edits';
import { useConnected, useNoise } from '../../api/live';
import { refresh, useShow, useStage } from '../../api/queries';
import { PersonMenu } from '../../app/shell/PersonMenu';
import { SocketRow } from './SocketRow';
import { QueryState } from '../../app/status/QueryState';
import { StateNote } from '../../app/status/StateNote';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';
import own from './stage.module.css';

/** For a telephone on stage: what to plug where, box by box, with a tick and a light for each socket. */
export default function StagePlace() {
  const about = useShow().data?.about;
  const stage = useStage();
  const connected = useConnected();
  const [open, setOpen] = useState(false);
  const noisy = useNoise();
  const sockets = stage.data?.boxes.flatMap((box) => box.sockets) ?? [];
  const plugged = sockets.filter((socket) => socket.plugged).length;
  return (
    <div className={own.stageView}>
      <header>
        <div>
          <h1>{about?.name ?? 'Loomshuttle'}</h1>
          <span className={cx(styles.quiet, styles.figure)}>
            {plugged} of {sockets.length} plugged
          </span>
        </div>
        <PersonMenu />
      </header>
      {!connected && (
        <p className={styles.lost} role="alert">
          Connection lost. Signal lights are off; ticks are sent when it is back.
        </p>
      )}
      <main>
        <label className={own.stageOpen}>
          <input type="checkbox" checked={open} onChange={(event) => setOpen(event.target.checked)} />
          Only what is not plugged yet
        </label>
        <QueryState of={stage} waiting="Reading what is to plug …">
          {({ boxes }) =>
            boxes.map((box) => {
              const shown = open ? box.sockets.filter((socket) => !socket.plugged) : box.sockets;
              return (
                <section key={box.id} aria-label={box.label}>
                  <h2>{box.label}</h2>
                  {shown.map((socket) => (
                    <SocketRow
                      key={socket.socket}
                      socket={socket}
                      noisy={noisy !== null && socket.channels.includes(noisy)}
                      tick={() => void tick(socket)}
                    />
                  ))}
                  {shown.length === 0 && <p className={styles.quiet}>all plugged</p>}
                </section>
              );
            })
          }
        </QueryState>
        {stage.data && sockets.length === 0 && <StateNote kind="empty">No socket is patched yet.</StateNote>}
        {stage.data?.outputs.map((place) => (
          <section key={place.label} aria-label={`Outputs, ${place.label}`}>
            <h2>Outputs, {place.label}</h2>
            {place.sockets.map((one) => (
              <div key={one.socket} className={own.outputRow}>
                <span className={cx(own.socketMark, styles.figure)}>{one.label}</span>
                <span className={own.socketWords}>
                  <strong>{one.plugs.join(', ') || one.carries}</strong>
                  <span className={styles.quiet}>
                    output {one.output}
                    {one.plugs.length > 0 && `, carries ${one.carries}`}
                  </span>
                </span>
              </div>
            ))}
          </section>
        ))}
        <a className={own.stageBack} href="#/line-check">
          Line check
        </a>
      </main>
    </div>
  );
}

async function tick(socket: StageSocket) {
  try {
    await taken(
      api.POST('/api/ticks', { body: { kind: 'plugged', subject: socket.socket, on: !socket.plugged } }),
    );
    await refresh('stage');
  } catch (error) {
    complain(error);
  }
}
