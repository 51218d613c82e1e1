import Button from '@mui/material/Button';
import { type FormEvent, useState } from 'react';
import { press } from '../../../api/press';
import { cx } from '../../../look/cx';
import styles from '../../../look/look.module.css';

/** A level of the desk by its figure: dB, or for a pan −1 left to 1 right. It is looked at before it is set. */
export function LevelField({ name, words, onDone }: { name: string; words: string; onDone: () => void }) {
  const [text, setText] = useState('');
  const value = Number(text.replace('−', '-').replace(',', '.'));
  const fits = text.trim() !== '' && !Number.isNaN(value);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (fits) void press(`Set ${words} at the desk`, { [name]: value });
    onDone();
  };
  return (
    <form className={styles.row} onSubmit={submit}>
      <input
        className={cx(styles.find, styles.grow)}
        aria-label={`${words}, in ${name.endsWith('/pan') ? 'parts from −1 to 1' : 'dB'}`}
        placeholder={name.endsWith('/pan') ? '−1 to 1' : 'dB'}
        autoFocus
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && onDone()}
      />
      <Button type="submit" size="small" disabled={!fits}>
        Look
      </Button>
    </form>
  );
}
