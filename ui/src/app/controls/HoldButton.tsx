import Button, { type ButtonProps } from '@mui/material/Button';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { cx } from '../../look/cx';
import own from '../shell/shell.module.css';

interface HoldProps extends Omit<ButtonProps, 'onClick'> {
  /** Done once it was held long enough, with the pointer or with Enter or Space. */
  onHeld: () => void;
  /** A short press does nothing but say so. */
  onShort: () => void;
}

export const HOLD_MS = 1000;

/** A button for what must not happen by accident: it has to be held. */
export function HoldButton({ onHeld, onShort, children, ...rest }: HoldProps) {
  const [holding, setHolding] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const start = () => {
    if (timer.current !== null) return;
    setHolding(true);
    timer.current = setTimeout(() => {
      timer.current = null;
      setHolding(false);
      onHeld();
    }, HOLD_MS);
  };
  const end = () => {
    if (timer.current === null) return;
    clearTimeout(timer.current);
    timer.current = null;
    setHolding(false);
    onShort();
  };
  useEffect(
    () => () => {
      if (timer.current !== null) clearTimeout(timer.current);
    },
    [],
  );
  const isPress = (event: KeyboardEvent) => event.key === 'Enter' || event.key === ' ';
  return (
    <Button
      {...rest}
      className={cx(own.hold, holding && own.holding)}
      onPointerDown={start}
      onPointerUp={end}
      onPointerLeave={end}
      onContextMenu={(event) => event.preventDefault()}
      onBlur={end}
      onKeyDown={(event) => {
        if (!isPress(event)) return;
        event.preventDefault();
        if (!event.repeat) start();
      }}
      onKeyUp={(event) => isPress(event) && end()}
    >
      {children}
    </Button>
  );
}
