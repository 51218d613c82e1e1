import { Suspense, useState } from 'react';
import { useConnected } from '../../api/live';
import { useShow } from '../../api/queries';
import { FindingsDrawer } from '../dialogs/FindingsDrawer';
import { places, usePlace } from './places';
import { Notices } from './Notices';
import { OnTakeDialog } from '../dialogs/OnTakeDialog';
import { OnTakeLine } from '../status/OnTakeLine';
import { PlayingBar } from '../status/PlayingBar';
import { PressDialog } from '../dialogs/PressDialog';
import { PreviewDialog } from '../dialogs/PreviewDialog';
import { Announcer } from '../status/Announcer';
import { StateBand } from '../status/StateBand';
import { QueryState } from '../status/QueryState';
import { Boundary } from './Boundary';
import { StateNote } from '../status/StateNote';
import styles from '../../look/look.module.css';
import own from './shell.module.css';

/** Navigation rail, status bar, the open page, and notices at the bottom. */
export function Shell() {
  const place = usePlace();
  const show = useShow();
  const connected = useConnected();
  const [findings, openFindings] = useState(false);
  const View = place.view;
  if (place.bare)
    return (
      <Boundary what={place.name}>
        <Suspense fallback={<Opening />}>
          <OnTakeLine />
          <View />
          <Notices />
        </Suspense>
      </Boundary>
    );
  return (
    <div className={own.shell}>
      <button type="button" className={own.skip} onClick={toContent}>
        {place.id === 'patch' ? 'To the strands' : `To ${place.name}`}
      </button>
      <div className={own.top}>
        <Boundary what="Status bar">
          <StateBand onFindings={() => openFindings(true)} help={place.id !== 'patch'} />
        </Boundary>
        {!connected && (
          <div className={styles.lost} role="alert">
            Connection lost: levels and status below are out of date. Reconnecting …
          </div>
        )}
      </div>
      <OnTakeDialog />
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
          <Boundary key={place.id} what={place.name}>
            <Suspense fallback={<Opening />}>
              <View key={show.data.id} />
            </Suspense>
          </Boundary>
        ) : (
          <main>
            <QueryState of={show} waiting="Reading the show …">
              {() => null}
            </QueryState>
          </main>
        )}
      </div>
      <Boundary what="What plays">{place.id !== 'soundcheck' && <PlayingBar />}</Boundary>
      <Boundary what="A dialog">
        <FindingsDrawer open={findings} onClose={() => openFindings(false)} />
        <PreviewDialog />
        <PressDialog />
      </Boundary>
      <Notices />
      <Announcer />
    </div>
  );
}

/** Past status bar and rail, and on Patch past its tools: to the sheet's own cell, or to the first thing of the place. */
function toContent() {
  const cell = document.querySelector<HTMLElement>('[role=grid] [tabindex="0"]');
  const first = document.querySelector<HTMLElement>(
    'main :is(button, input, select, a, [tabindex="0"]):not([disabled])',
  );
  (cell ?? first)?.focus();
}

/** A place on its way; it comes with the first opening. */
const Opening = () => (
  <main>
    <StateNote kind="waiting">Opening …</StateNote>
  </main>
);
