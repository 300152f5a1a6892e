import { describe, expect, it } from 'vitest';
import { isSimulated, readSenml, rodReadingMm } from './senml';

const pack = (text: string) => {
  const read = readSenml(text);
  if (!read.ok) throw new Error(read.problem.code);
  return read.value;
};

describe('a SenML pack', () => {
  it('holds base values on from where they stand, as RFC 8428 has it', () => {
    const text =
      '[{"bn":"urn:dev:laser:1:","bt":100,"bu":"m","n":"rod","v":0.4123},{"n":"tilt","u":"deg","v":0.1,"t":-2}]';
    expect(pack(text)).toEqual([
      { name: 'urn:dev:laser:1:rod', unit: 'm', value: 0.4123, is: null, timeS: 100 },
      { name: 'urn:dev:laser:1:tilt', unit: 'deg', value: 0.1, is: null, timeS: 98 },
    ]);
    expect(rodReadingMm(pack(text))).toBeCloseTo(412.3, 9);
  });
  it('in another unit, or without a rod, gives no reading', () => {
    expect(rodReadingMm(pack('[{"n":"rod","u":"deg","v":3}]'))).toBeNull();
    expect(rodReadingMm(pack('[{"n":"rod","u":"mm","v":3}]'))).toBe(3);
    expect(rodReadingMm([])).toBeNull();
    expect([isSimulated(pack('[{"n":"simulated","vb":true}]')), isSimulated([])]).toEqual([true, false]);
  });
  it.each(['', 'x', '{"v":1}', '[{"v":"1"}]'])('that is none is refused: %j', (text) => {
    expect(readSenml(text)).toMatchObject({ ok: false, problem: { field: 'senml' } });
  });
});
