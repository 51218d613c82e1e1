import { expect, test } from 'vitest';

// Who imports whom: main > app/shell/places > places > app > api, look.
const texts = import.meta.glob<string>(['./**/*.ts', './**/*.tsx', '!./**/*.test.*'], {
  query: '?raw',
  import: 'default',
  eager: true,
});

const IMPORT = /(?:from|import)\s*\(?\s*'(\.\.?\/[^']+)'/g;

function resolved(file: string, name: string): string | undefined {
  const path = new URL(name, `file:///${file.slice(2)}`).pathname.slice(1);
  return [`./${path}`, `./${path}.ts`, `./${path}.tsx`].find((one) => one in texts);
}

const imports = new Map(
  Object.entries(texts).map(([file, text]) => [
    file,
    [...text.matchAll(IMPORT)]
      .map(([, name]) => resolved(file, name ?? ''))
      .filter((one) => one !== undefined),
  ]),
);

test('no file imports itself by way of others', () => {
  const done = new Set<string>();
  const cycles: string[] = [];
  const visit = (file: string, way: string[]) => {
    if (way.includes(file)) cycles.push([...way.slice(way.indexOf(file)), file].join(' > '));
    if (done.has(file)) return;
    done.add(file);
    for (const next of imports.get(file) ?? []) visit(next, [...way, file]);
  };
  for (const file of imports.keys()) visit(file, []);
  expect(imports.get('./main.tsx')?.length).toBeGreaterThan(3);
  expect(cycles).toEqual([]);
});

test('a place imports no other place, and nothing below the places imports one', () => {
  const room = (file: string) =>
    file
      .split('/')
      .slice(1, file.startsWith('./places/') ? 3 : 2)
      .join('/');
  const wrong = [...imports].flatMap(([file, used]) =>
    used
      .filter((one) => room(one) !== room(file))
      .filter(
        (one) => one.startsWith('./places/') || (/^\.\/(api|look)\//.test(file) && one.startsWith('./app/')),
      )
      .filter(() => file !== './app/shell/places.tsx')
      .map((one) => `${file} imports ${one}`),
  );
  expect(wrong).toEqual([]);
});
