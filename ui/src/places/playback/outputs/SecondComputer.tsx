import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useLivePlayer } from '../../../api/live';
import { usePlayback } from '../../../api/queries';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';
import { press } from '../player';
import own from '../playback.module.css';

/** A second computer beside this one: it does the same at the same samples, and is heard when the first one falls silent. */
export function SecondComputer() {
  const player = useLivePlayer();
  // Only at the recording computer itself.
  const code = usePlayback().data?.player?.code;
  if (!player) return null;
  const { follows } = player;
  const followers = player.followers ?? [];
  return (
    <section aria-label="Backup computer">
      <h2>Backup computer</h2>
      {follows ? (
        <div className={styles.row}>
          <span>
            This one follows {follows.host}, port {follows.port}:{' '}
            {follows.connected
              ? follows.apart === null
                ? 'ready'
                : follows.apart === 0
                  ? 'at the same sample'
                  : `${follows.apart} samples off`
              : (follows.problem ?? 'connecting')}
          </span>
          {follows.connected && follows.differs.length > 0 && (
            <span className={styles.inLook}>Different: {follows.differs.join(', ')}</span>
          )}
          <Button size="small" onClick={() => void press({ command: 'follow', to: null })}>
            Stop following
          </Button>
        </div>
      ) : (
        <>
          <p>
            {followers.length === 0 ? (
              <span className={styles.quiet}>
                No backup computer connected.{' '}
                {code ? (
                  <>
                    Pairing code: <b className={styles.figure}>{code}</b>.
                  </>
                ) : (
                  'Pairing is only possible on the recording computer. Open this page there.'
                )}
              </span>
            ) : (
              followers.map((one, at) => (
                <span key={at} className={cx(one.differs.length > 0 && styles.inLook)}>
                  Backup computer connected
                  {one.differs.length > 0 ? `; different: ${one.differs.join(', ')}` : ', in sync'}.
                </span>
              ))
            )}
          </p>
          {code && (
            <form
              className={styles.row}
              onSubmit={(event) => {
                event.preventDefault();
                const data = new FormData(event.currentTarget);
                void press({
                  command: 'follow',
                  to: {
                    host: String(data.get('host')).trim(),
                    port: Number(data.get('port')),
                    code: String(data.get('code')).trim(),
                  },
                });
              }}
            >
              <TextField size="small" name="host" label="Follow the player at" defaultValue="127.0.0.1" />
              <TextField size="small" name="port" label="Port" defaultValue="4055" className={own.figure} />
              <TextField size="small" name="code" label="Pairing code" className={own.figure} />
              <Button type="submit" size="small">
                Follow
              </Button>
            </form>
          )}
        </>
      )}
    </section>
  );
}
