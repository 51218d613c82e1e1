import { useState } from 'react';
import type { Hearing, Outputs, Show } from '../../api/client';
import { useHearing, useOutputs, useShow } from '../../api/queries';
import { ViewTabs } from '../../app/controls/ViewTabs';
import { QueryState } from '../../app/status/QueryState';
import { useJump } from '../../app/shell/jump';
import styles from '../../look/look.module.css';
import { FigureTable } from './listening/FigureTable';
import { Levels } from './levels/Levels';
import { Listening } from './listening/Listening';
import { Room } from './room/Room';
import type { Chosen } from './listening/heard';
import { SendLevels } from './levels/SendLevels';
import { Sockets } from './sockets/Sockets';

const VIEWS = [
  { id: 'who', name: 'Who hears what' },
  { id: 'table', name: 'All levels' },
  { id: 'room', name: 'Room and delays' },
  { id: 'sends', name: 'Send levels' },
  { id: 'sockets', name: 'Outputs and buses' },
] as const;
type View = (typeof VIEWS)[number]['id'];

/** Who hears what, with path, level and delay, and all settings of the outputs. */
export default function OutputsPlace() {
  const show = useShow().data;
  const outputs = useOutputs();
  const [sheet, choose] = useState<number | null>(null);
  const hearing = useHearing(sheet);
  if (!show) return null;
  const both =
    outputs.data && hearing.data ? (
      <Views show={show} outputs={outputs.data} hearing={hearing.data} sheet={sheet} onSheet={choose} />
    ) : null;
  if (both) return both;
  return (
    <main>
      {outputs.data ? (
        <QueryState of={hearing} waiting="Computing levels …">
          {() => null}
        </QueryState>
      ) : (
        <QueryState of={outputs} waiting="Reading the outputs …">
          {() => null}
        </QueryState>
      )}
    </main>
  );
}

interface ViewsProps {
  show: Show;
  outputs: Outputs;
  hearing: Hearing;
  sheet: number | null;
  onSheet: (sheet: number | null) => void;
}

function Views({ show, outputs, hearing, sheet, onSheet }: ViewsProps) {
  const [view, turn] = useState<View>('who');
  const [chosen, pick] = useState<Chosen>({ listener: null, source: null });
  const [sought, seek] = useState('');
  const [bus, mix] = useState<number | null>(null);
  useJump('outputs', (setting) => {
    const sends = /^sends\/(\d+)/.exec(setting);
    if (sends) mix(Number(sends[1]));
    else seek(setting);
    turn(sends ? 'sends' : 'sockets');
  });
  const head = (
    <div className={styles.tools}>
      <ViewTabs label="Views" views={VIEWS} view={view} onTurn={turn} />
      {(view === 'who' || view === 'table') && <Levels hearing={hearing} sheet={sheet} onChoose={onSheet} />}
    </div>
  );
  const open = (next: Chosen) => {
    pick(next);
    turn('who');
  };
  if (view === 'who')
    return (
      <Listening
        head={head}
        outputs={outputs}
        hearing={hearing}
        sheet={sheet}
        chosen={chosen}
        onChoose={pick}
      />
    );
  if (view === 'sockets')
    return <Sockets key={sought} head={head} outputs={outputs} show={show} sought={sought} />;
  return (
    <main>
      {head}
      {view === 'table' && <FigureTable hearing={hearing} onOpen={open} />}
      {view === 'room' && <Room outputs={outputs} />}
      {view === 'sends' && <SendLevels outputs={outputs} bus={bus} onBus={mix} />}
    </main>
  );
}
