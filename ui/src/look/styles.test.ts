import { expect, test } from 'vitest';

// A class that a style sheet lacks is undefined, which no type checker sees.
const sheets = import.meta.glob<Record<string, string>>('../**/*.module.css', {
  import: 'default',
  eager: true,
});
const parts = import.meta.glob<string>(['../**/*.tsx', '!../**/*.test.tsx'], {
  query: '?raw',
  import: 'default',
  eager: true,
});

const classesOf = (path: string) => Object.keys(sheets[path] ?? {});
const sheetOf = (file: string, name: string): string => {
  const imported = new RegExp(`import ${name} from '[^']*?([\\w-]+\\.module\\.css)'`).exec(parts[file] ?? '');
  return Object.keys(sheets).find((path) => path.endsWith(`/${imported?.[1]}`)) ?? '';
};

test('every class that a part names is in its style sheet', () => {
  const missing = Object.entries(parts).flatMap(([file, text]) =>
    [...text.matchAll(/\b(own|styles)\.(\w+)/g)]
      .filter(([, name, used]) => !classesOf(sheetOf(file, name ?? '')).includes(used ?? ''))
      .map(([found]) => `${file}: ${found}`),
  );
  expect(missing).toEqual([]);
});

test('every class of a style sheet is used', () => {
  const used = new Set(
    Object.entries(parts).flatMap(([file, text]) =>
      [...text.matchAll(/\b(own|styles)(?:\.(\w+)|\[)/g)].map(
        ([, name, part]) => `${sheetOf(file, name ?? '')} ${part ?? '*'}`,
      ),
    ),
  );
  // Kinds are looked up by name: styles[kind]; an animation is named in its own sheet.
  const byKind = ['well', 'look', 'stop', 'waiting', 'empty', 'error', 'away', 'appear'];
  const unused = Object.keys(sheets).flatMap((path) =>
    classesOf(path)
      .filter((one) => !used.has(`${path} ${one}`) && !(byKind.includes(one) && used.has(`${path} *`)))
      .map((one) => `${path}: ${one}`),
  );
  expect(unused).toEqual([]);
});

test('no part says stage position, but for those that are drawn by figures', () => {
  const drawn = ['Sheet.tsx', 'PortCell.tsx', 'NameInput.tsx', 'Brackets.tsx', 'Diagram.tsx', 'Cloth.tsx'];
  const inline = Object.entries(parts)
    .filter(([file, text]) => /\sstyle=\{/.test(text) && !drawn.some((one) => file.endsWith(`/${one}`)))
    .map(([file]) => file);
  expect(inline).toEqual([]);
});
