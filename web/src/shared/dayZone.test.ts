import { describe, expect, it } from 'vitest';
import { dayZone } from './dayZone';

describe('the zone of a day', () => {
  it('is that of most showers, whatever their order; the firm’s own where as many lie in it, or where there is none', () => {
    const [chicago, utc, denver] = ['America/Chicago', 'UTC', 'America/Denver'];
    expect(dayZone([utc, chicago, chicago], utc)).toBe(chicago);
    expect(dayZone([chicago, utc, chicago], utc)).toBe(chicago);
    expect(dayZone([chicago, denver], denver)).toBe(denver);
    expect(dayZone([denver, chicago], utc)).toBe(dayZone([chicago, denver], utc));
    expect(dayZone([], chicago)).toBe(chicago);
  });
});
