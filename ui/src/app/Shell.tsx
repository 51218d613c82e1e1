import Button from '@mui/material/Button';
import Snackbar from '@mui/material/Snackbar';
import SnackbarContent from '@mui/material/SnackbarContent';
import { Suspense, useState } from 'react';
import { useConnected } from '../api/live';
import { tell, useNotice } from '../api/notices';
import { useShow } from '../api/queries';
import { FindingsDrawer } from './FindingsDrawer';
import { places, usePlace } from './places';
import { PlayingBar } from './PlayingBar';
import { PreviewDialog } from './PreviewDialog';
import { StateBand } from './StateBand';
import styles from '../look/look.module.css';
import own from './shell.module.css';

/** Rail, state band, the place that is open, and what is told at the foot. */
export function Shell() {
  const place = usePlace();
  const show = useShow();
  const connected = useConnected();
  const [findings, openFindings] = useState(false);
  const View = place.view;
  if (place.bare)
    return (
      <Suspense fallback={<main />}>
        <View />
        <Notices />
      </Suspense>
    );
  return (
    <div className={own.shell}>
      <div className={own.top}>
        <StateBand onFindings={() => openFindings(true)} />
        {!connected && (
          <div className={styles.lost} role="alert">
            No connection to the application. Levels and states below are old; it is tried again all the time.
          </div>
        )}
      </div>
      <nav className={own.rail} aria-label="Places">
        {places.map((one) => (
          <a key={one.id} href={`#/${one.id}`} aria-current={one === place ? 'page' : undefined}>
            <svg viewBox="0 0 24 24" aria-hidden="true">
              <path d={one.icon} />
            </svg>
            {one.name}
          </a>
        ))}
      </nav>
      <div className={own.place}>
        {show.data ? (
          <Suspense fallback={<main />}>
            <View key={`${place.id}${show.data.id}`} />
          </Suspense>
        ) : (
          <main className={styles.empty} aria-live="polite">
            {show.isError ? `${show.error.message} ` : 'Reading the show …'}
            {show.isError && <Button onClick={() => void show.refetch()}>Try again</Button>}
          </main>
        )}
      </div>
      {place.id !== 'soundcheck' && <PlayingBar />}
      <FindingsDrawer open={findings} onClose={() => openFindings(false)} />
      <PreviewDialog />
      <Notices />
    </div>
  );
}

function Notices() {
  const notice = useNotice();
  const close = () => tell(null);
  const act = notice?.action;
  return (
    <Snackbar
      open={notice !== null}
      autoHideDuration={act ? null : 9000}
      onClose={(_, why) => why !== 'clickaway' && close()}
    >
      <SnackbarContent
        role="alert"
        message={notice?.text}
        action={
          <>
            {act && (
              <Button
                color="inherit"
                onClick={() => {
                  close();
                  act.run();
                }}
              >
                {act.label}
              </Button>
            )}
            <Button color="inherit" onClick={close}>
              Close
            </Button>
          </>
        }
      />
    </Snackbar>
  );
}
