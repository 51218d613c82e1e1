import { useEffect, useRef } from 'react';
import { decibels } from '../look/format';
import { eachFrame } from './clock';
import { levelOf, type MeterPoint } from './levels';
import { cx } from '../look/cx';
import styles from '../look/look.module.css';
import own from './meters.module.css';

/** The held peak in figures, written past React. */
export function LevelText({ point }: { point: MeterPoint }) {
  const span = useRef<HTMLSpanElement>(null);
  const { of, index } = point;
  useEffect(
    () =>
      eachFrame(() => {
        const level = levelOf({ of, index });
        const text = decibels(level.hold);
        if (span.current && span.current.textContent !== text) span.current.textContent = text;
        const clipped = String(level.clips > 0);
        if (span.current && span.current.dataset.clipped !== clipped) span.current.dataset.clipped = clipped;
      }, true),
    [of, index],
  );
  return <span className={cx(styles.figure, own.level)} ref={span} />;
}
