import { type PointerEvent, useRef, useState } from 'react';
import { cx } from '../../../look/cx';
import { extent, type Thing, wordsBeside } from './room';
import own from '../outputs.module.css';

interface PlanProps {
  things: Thing[];
  onMove: (thing: Thing, x: number, y: number) => void;
}

interface Drag {
  path: string;
  x: number;
  y: number;
}

/** The room from above, a unit a metre. Speakers and listeners are dragged by the metre; the table beside it does the same by keyboard. */
export function RoomPlan({ things, onMove }: PlanProps) {
  const plan = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<Drag | null>(null);
  const placed = things.filter((one) => one.x !== null && one.y !== null);
  const { left, top, width, height } = extent(placed);
  const size = unitOf(width, height);
  const words = wordsBeside(placed, size * 1.1);
  const spot = (event: PointerEvent) => {
    const matrix = plan.current?.getScreenCTM()?.inverse();
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    return { x: Math.round(at.x), y: Math.round(at.y) };
  };
  return (
    <svg
      ref={plan}
      className={own.plan}
      viewBox={`${left} ${top} ${width} ${height}`}
      role="img"
      aria-label={`Plan of the room: ${placed.map((one) => `${one.name} at ${one.x} and ${one.y} m`).join('; ') || 'no positions yet'}`}
      onPointerMove={(event) => drag && setDrag({ ...drag, ...spot(event) })}
      onPointerUp={() => {
        const thing = things.find((one) => one.path === drag?.path);
        if (thing && drag && (thing.x !== drag.x || thing.y !== drag.y)) onMove(thing, drag.x, drag.y);
        setDrag(null);
      }}
    >
      <Lines left={left} top={top} width={width} height={height} />
      <rect
        className={own.stage}
        x={-8}
        y={Math.max(top + 0.5, -4)}
        width={16}
        height={Math.min(3.5, -top - 0.5)}
        strokeWidth={size / 8}
      />
      <text x={-7.6} y={Math.max(top + 0.5, -4) + size * 1.2} fontSize={size} className={own.quiet}>
        stage
      </text>
      {placed.map((one) => {
        const home = { x: one.x ?? 0, y: one.y ?? 0 };
        const at = drag?.path === one.path ? drag : home;
        const beside = words.get(one.path);
        return (
          <g
            key={one.path}
            className={own.thing}
            transform={`translate(${at.x} ${at.y})`}
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              setDrag({ path: one.path, ...at });
            }}
          >
            {one.kind === 'ears' ? (
              <circle className={own.ears} r={size * 0.7} strokeWidth={size / 5} />
            ) : (
              <rect
                className={one.kind === 'main' ? own.mainly : own.zone}
                x={-size}
                y={-size * 0.6}
                width={size * 2}
                height={size * 1.2}
                rx={size / 4}
              />
            )}
            <text
              x={(beside?.x ?? home.x) - home.x}
              y={(beside?.y ?? home.y) - home.y}
              fontSize={size * 1.1}
              strokeWidth={size / 3}
              textAnchor={beside?.end ? 'end' : 'start'}
            >
              {drag?.path === one.path ? `${at.x} / ${at.y} m` : one.short}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

/** A line each ten metres, with how far from the stage it is. */
function Lines({ left, top, width, height }: { left: number; top: number; width: number; height: number }) {
  const size = unitOf(width, height);
  const across = steps(top, top + height);
  return (
    <>
      {across.map((y) => (
        <g key={y}>
          <line className={own.grid} x1={left} x2={left + width} y1={y} y2={y} strokeWidth={size / 12} />
          <text className={cx(own.quiet)} x={left + size / 2} y={y - size / 3} fontSize={size}>
            {y} m
          </text>
        </g>
      ))}
      {steps(left, left + width).map((x) => (
        <line key={x} className={own.grid} x1={x} x2={x} y1={top} y2={top + height} strokeWidth={size / 12} />
      ))}
    </>
  );
}

/** What words are as high as, in metres, so that they are read in any room. */
const unitOf = (width: number, height: number) => Math.max(width / 46, height / 50);

const steps = (from: number, to: number) =>
  Array.from(
    { length: Math.max(0, Math.floor(to / 10) - Math.ceil(from / 10) + 1) },
    (_, at) => (Math.ceil(from / 10) + at) * 10,
  );
