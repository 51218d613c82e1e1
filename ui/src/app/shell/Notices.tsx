import Button from '@mui/material/Button';
import Snackbar from '@mui/material/Snackbar';
import SnackbarContent from '@mui/material/SnackbarContent';
import { useEffect, useState } from 'react';
import { createPortal } from 'react-dom';
import { tell, useNotice } from '../../api/notices';

/** Where a notice is reached by keyboard and read out: within the dialog that is on top, since all else is hidden behind it. */
function topmost(): HTMLElement | null {
  const dialogs = document.querySelectorAll('.MuiModal-root:not(.MuiPopover-root)');
  const top = dialogs[dialogs.length - 1];
  // What a dialog keeps the focus in stands between the two ends that turn it around.
  const inside = top?.querySelector('[data-testid=sentinelStart]')?.nextElementSibling;
  return inside instanceof HTMLElement ? inside : null;
}

function useTopmost(when: boolean): HTMLElement | null {
  const [host, setHost] = useState<HTMLElement | null>(null);
  useEffect(() => {
    if (!when) return;
    const look = () => setHost(topmost());
    look();
    const watcher = new MutationObserver(look);
    watcher.observe(document.body, { childList: true });
    return () => watcher.disconnect();
  }, [when]);
  return when ? host : null;
}

/** The page ends above a notice, so that it covers neither rows nor buttons. */
function useRoom(when: boolean) {
  useEffect(() => {
    document.documentElement.toggleAttribute('data-notice', when);
    return () => document.documentElement.removeAttribute('data-notice');
  }, [when]);
}

/** One line at the foot of the page, or of the dialog that is open. */
export function Notices() {
  const notice = useNotice();
  const host = useTopmost(notice !== null);
  useRoom(notice !== null && host === null);
  const close = () => tell(null);
  const act = notice?.action;
  const line = (
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
  return host ? createPortal(line, host) : line;
}
