import type { ReactNode } from 'react';
import { cx } from '../../look/cx';
import styles from '../../look/look.module.css';

interface FilePickProps {
  children: ReactNode;
  /** Name of the field, for whoever does not see its words beside it. */
  label: string;
  /** File name endings and types, as HTML writes them. */
  accept?: string;
  multiple?: boolean;
  disabled?: boolean;
  className?: string | undefined;
  onPick: (files: File[]) => void;
}

/** Files from this computer. The same ones can be chosen again, such as after they were put right. */
export function FilePick({ children, label, className, onPick, ...input }: FilePickProps) {
  return (
    <label className={cx(styles.file, className)}>
      {children}
      <input
        type="file"
        aria-label={label}
        {...input}
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = '';
          if (files.length > 0) onPick(files);
        }}
      />
    </label>
  );
}
