import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { answer } from '../test/application';
import { draw } from '../test/screen';
import { TroublePill } from './TroublePill';

describe('Parts in trouble', () => {
  it('are no word while there are none', () => {
    draw(<TroublePill troubles={[]} />);
    expect(screen.queryByText(/in trouble/)).toBeNull();
  });

  it('are told with what was put aside', async () => {
    answer('GET /api/health', {
      aside: [{ name: 'recorder.json', why: 'recorder.json is an object.', at: '2026-06-13T20:30:00Z' }],
    });
    const { user } = draw(<TroublePill troubles={['The porter ends again and again.']} />);
    await user.click(screen.getByRole('button', { name: '1 part in trouble' }));
    expect(await screen.findByText('The porter ends again and again.')).toBeTruthy();
    expect(await screen.findByText('recorder.json')).toBeTruthy();
    expect(screen.getByText(/is an object/)).toBeTruthy();
  });
});
