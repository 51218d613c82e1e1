import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { draw } from '../../test/screen';
import { TroublePill } from './TroublePill';

describe('Troubles', () => {
  it('says nothing while there are none', () => {
    draw(<TroublePill troubles={[]} />);
    expect(screen.queryByText(/in trouble/)).toBeNull();
  });

  it('are told with what was put aside', async () => {
    const { user } = draw(
      <TroublePill troubles={['The porter keeps failing.', 'recorder.json was moved aside: damaged.']} />,
    );
    expect(screen.queryByText('The porter keeps failing.')).toBeNull();
    await user.click(screen.getByRole('button', { name: '2 troubles' }));
    expect(await screen.findByText('The porter keeps failing.')).toBeTruthy();
    expect(screen.getByText('recorder.json was moved aside: damaged.')).toBeTruthy();
  });
});
