import text from '../../../../docs/glossary.md?raw';

interface Word {
  word: string;
  nearest: string;
  meaning: string;
}

/** The table of the glossary, row by row. */
export const words: Word[] = text
  .split('\n')
  .filter((line) => line.startsWith('| '))
  .slice(2)
  .map((line) => {
    const [word = '', nearest = '', meaning = ''] = line.split('|').slice(1, 4);
    return { word: word.trim(), nearest: nearest.trim(), meaning: meaning.trim() };
  });
