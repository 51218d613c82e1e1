import { words } from './glossary';
import styles from '../../look/look.module.css';

/** Words of our own, each with the nearest word of the trade. */
export default function Glossary() {
  return (
    <table className={styles.plain} aria-label="Glossary">
      <thead>
        <tr>
          <th>Word</th>
          <th>Trade</th>
          <th>Meaning</th>
        </tr>
      </thead>
      <tbody>
        {words.map(({ word, nearest, meaning }) => (
          <tr key={word}>
            <th scope="row">{word}</th>
            <td>{nearest}</td>
            <td>{meaning}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
