import { expect, test } from 'vitest';
import { diskWords } from './disk';

test('says how long the disk lasts, that nothing is armed, or that its free space is not known', () => {
  expect(diskWords({ seconds: 16_200, free_bytes: 7e10, armed_lanes: 30 })).toBe('4 h 30 min of disk');
  expect(diskWords({ seconds: null, free_bytes: 7e10, armed_lanes: 0 })).toBe('no track armed');
  expect(diskWords({ seconds: null, free_bytes: null, armed_lanes: 0 })).toBe('no track armed');
  expect(diskWords({ seconds: null, free_bytes: null, armed_lanes: 30 })).toBe('free space unknown');
});
