import { screen, waitFor } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import { useNotice } from '../../api/notices';
import { answer, asked, Refusal } from '../../test/application';
import { draw } from '../../test/screen';
import { SourcePick } from './SourcePick';

const StateNote = () => <p>{useNotice()?.text}</p>;
const put = (name: string) => `PUT /api/deliveries/d1/files/${name}`;
const file = (name: string) => new File(['RIFF'], name);

function open(onLook = vi.fn(async () => undefined)) {
  answer('POST /api/deliveries', { id: 'd1' });
  answer('POST /api/deliveries/look', { look: 'l1' });
  const { user, unmount } = draw(
    <>
      <SourcePick
        words="Import"
        files="Files"
        folderLabel="Folder"
        placeholder=""
        onLook={onLook}
        onSent={() => undefined}
        onClose={() => undefined}
      />
      <StateNote />
    </>,
  );
  return { user, onLook, unmount };
}

test('a file that is not sound is left out with its reason, and stops none of the others', async () => {
  for (const name of ['tuba.wav', 'fiddle.wav']) answer(put(name), { done: true });
  answer(put('readme.txt'), new Refusal(422, '"readme.txt" is not the name of a sound file.'));
  const { user, onLook } = open();
  await user.upload(screen.getByLabelText('Files'), ['tuba.wav', 'readme.txt', 'fiddle.wav'].map(file));
  await waitFor(() => expect(onLook).toHaveBeenCalledWith('l1', expect.anything()));
  expect(asked.filter((one) => one.request.startsWith('PUT')).map((one) => one.request)).toEqual(
    ['tuba.wav', 'readme.txt', 'fiddle.wav'].map(put),
  );
  expect(await screen.findByText('Left out: "readme.txt" is not the name of a sound file.')).toBeTruthy();
});

test('where nothing was taken, nothing is looked at', async () => {
  answer(put('readme.txt'), new Refusal(422, '"readme.txt" is not the name of a sound file.'));
  const { user, onLook } = open();
  await user.upload(screen.getByLabelText('Files'), file('readme.txt'));
  expect(await screen.findByText('"readme.txt" is not the name of a sound file.')).toBeTruthy();
  expect(onLook).not.toHaveBeenCalled();
});

test('goes on after a cut with the file that was on its way', async () => {
  let cuts = 1;
  answer(put('tuba.wav'), () => {
    if (cuts-- > 0) throw new TypeError('Failed to fetch');
    return { done: true };
  });
  const { user, onLook } = open();
  await user.upload(screen.getByLabelText('Files'), file('tuba.wav'));
  await waitFor(() => expect(onLook).toHaveBeenCalled());
  expect(asked.filter((one) => one.request === put('tuba.wav'))).toHaveLength(2);
});

test('a dialog that is closed breaks off what it sends, and sends nothing more', async () => {
  let broken = false;
  answer(
    put('tuba.wav'),
    (_body, _url, signal) =>
      new Promise((_, fail) => {
        signal.addEventListener('abort', () => {
          broken = true;
          fail(new DOMException('gone', 'AbortError'));
        });
      }),
  );
  const { user, unmount } = open();
  await user.upload(screen.getByLabelText('Files'), ['tuba.wav', 'fiddle.wav'].map(file));
  await waitFor(() => expect(asked.some((one) => one.request === put('tuba.wav'))).toBe(true));
  unmount();
  await waitFor(() => expect(broken).toBe(true));
  expect(asked.some((one) => one.request === put('fiddle.wav'))).toBe(false);
  expect(asked.find((one) => one.request === 'POST /api/deliveries')?.body).toEqual({ bytes: 8 });
});
