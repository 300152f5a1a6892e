import { saturationPa } from '@careful-seam/core/cure/air';
import { helped } from '@careful-seam/core/cure/siteAir';
import { describe, expect, it } from 'vitest';

describe('what would help', () => {
  it('heated air holds the same water and is drier for it', () => {
    const warm = helped({ airC: 9, relativeHumidity: 0.8 }, 'heat');
    expect(warm.airC).toBe(23);
    expect(warm.relativeHumidity * saturationPa(23)).toBeCloseTo(0.8 * saturationPa(9), 6);
    expect(helped({ airC: 30, relativeHumidity: 0.4 }, 'heat')).toMatchObject({ airC: 30, relativeHumidity: 0.4 });
  });
  it('ventilated air is no damper than before', () => {
    expect(helped({ airC: 9, relativeHumidity: 0.8 }, 'ventilate').relativeHumidity).toBe(0.45);
    expect(helped({ airC: 9, relativeHumidity: 0.3 }, 'ventilate').relativeHumidity).toBe(0.3);
  });
});
