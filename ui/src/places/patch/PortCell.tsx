import { type CSSProperties, memo, type MouseEvent } from 'react';
import type { Port } from '../../api/client';
import { HEADS, rowTop } from './layout';

export interface PortCellProps {
  port: Port;
  left: number;
  width: number;
  colour: string;
  /** What it is beside a port: at the cursor, in the range, on the chosen strand, in a finding. */
  kinds: string;
  focusable: boolean;
  chosen: boolean;
  onPoint: (port: Port, event: MouseEvent<HTMLElement>) => void;
  onOpen: (port: Port, cell: HTMLElement) => void;
  onDye: (port: Port, cell: HTMLElement) => void;
}

/** One port of the sheet. Drawn anew only when something of it has changed. */
export const PortCell = memo(function PortCell(props: PortCellProps) {
  const { port, left, width, colour, kinds, focusable, chosen, onPoint, onOpen, onDye } = props;
  const dyed = (port.rail === 'channel' || port.rail === 'track') && (port.name !== '' || !port.free);
  return (
    <div
      role="gridcell"
      data-port={port.id}
      tabIndex={focusable ? 0 : -1}
      aria-label={`${HEADS[port.rail]} ${port.mark} ${port.name} ${port.note}`.trim()}
      aria-selected={chosen}
      title={port.missing ?? undefined}
      className={`port rail-${port.rail} ${port.free ? 'free' : ''} ${port.missing ? 'missing' : ''} ${kinds}`}
      style={{ left, width, top: rowTop(port.row) } as CSSProperties}
      onClick={(event) => onPoint(port, event)}
      onDoubleClick={(event) => onOpen(port, event.currentTarget)}
    >
      {dyed && (
        <button
          type="button"
          className="dye"
          tabIndex={-1}
          aria-label={`Dye of ${port.name || port.mark}`}
          style={{ background: colour }}
          onClick={(event) => {
            event.stopPropagation();
            onDye(port, event.currentTarget);
          }}
        />
      )}
      <span className="port-mark figure">{port.mark}</span>
      <span className="port-name">{port.name}</span>
      {port.note && <span className="port-note figure">{port.note}</span>}
    </div>
  );
});
