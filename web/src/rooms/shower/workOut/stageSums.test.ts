import { STAGE_SUMS, type StageSumKey, sumsOf, toolsOf } from '@careful-seam/core/rules/tools';
import { begun, fold } from '@careful-seam/core/tests/sampleTablet';
import { beforeAll, describe, expect, it } from 'vitest';
import { bringSentences } from '../../../ui/words';
import { readSum } from './stageSum';
import { SUMS } from './stageSums';

beforeAll(bringSentences);

const state = fold(begun().entries);
const t = ((key: string, values: object = {}) => `${key} ${JSON.stringify(values)}`) as never;
const work = (key: StageSumKey, typed: Record<string, string>, unit: 'in' | 'mm' = 'in'): string => {
  const sum = { key, ...SUMS[key] };
  const start = Object.fromEntries(sum.fields.map((f) => [f.key, f.start(state, unit)]));
  const read = readSum(sum, { ...start, ...typed }, unit);
  if ('problem' in read) return `${read.field}: ${read.problem}`;
  const found = sum.work(t, unit, read.values, state);
  return 'lines' in found ? found.lines.join('\n') : found.problem;
};

describe('sums of the floor', () => {
  it('are offered by the stages of the shipped book, each by one at least, and by stages of older books as before', () => {
    const { stages } = state.rules!.method;
    const offered = stages.flatMap((stage) => sumsOf(stage).map((key) => `${stage.key} ${key}`));
    expect(new Set(offered.map((o) => o.split(' ')[1]))).toEqual(new Set(STAGE_SUMS));
    const older = stages.map(({ sums: _sums, tools: _tools, ...stage }) => stage);
    expect(older.flatMap((stage) => sumsOf(stage).map((key) => `${stage.key} ${key}`))).toEqual(offered);
    expect(older.map(toolsOf)).toEqual(stages.map(toolsOf));
  });
  it('raise the side of a flange that hangs, from readings with their sign', () => {
    expect(work('flange', { leftOverRight: '-1/8', frontOverBack: '0' })).toContain('floorSum.side.left');
    expect(work('flange', { leftOverRight: '1/8', frontOverBack: '0' })).toContain('floorSum.side.right');
  });
  it('shim studs one by one', () => {
    expect(work('studs', { behind: '0; 1/4; 0; 3/4' })).toContain('2: 1/4 in; 3: 0 in; 4: 3/4 in');
  });
  it('say where leveller goes under a straightedge, whether a level spans, what a pitched floor takes', () => {
    expect(work('gaps', { gaps: '0; 1/16; 1/8; 0; 0' })).toContain('12 in: 1/8 in');
    expect(work('gaps', { gaps: '0; 1/16' })).toContain('floorSum.gaps.pass');
    expect(work('span', { level: '24' })).toContain('floorSum.span.none');
    expect(work('span', { level: '96' })).toContain('floorSum.span.both');
    expect(work('pitch', { corners: '0; 1/4; 0; 0' })).toContain('floorSum.pitch.fill');
    expect(work('pitch', { corners: '0; 2; 0; 0' })).toContain('floorSum.pitch.leave');
  });
  it('judge a pan on its four sides, the trowel in hand, the stack of a grate', () => {
    expect(work('panLevel', { sides: '0; 0; 1/8; 0' })).toContain('floorSum.panLevel.fail');
    expect(work('panLevel', { sides: '0; 0' })).toContain('floorSum.panLevel.four');
    expect(work('trowel', { job: '2', notch: '1/4' })).toContain('floorSum.trowel.fail');
    expect(work('trowel', { job: '2', notch: '3/8' })).toContain('floorSum.trowel.pass');
    expect(work('grate', {})).toContain('floorSum.grate.one');
  });
  it('count contact on a lifted panel against 100 %, on a tile against 95', () => {
    expect(work('contactBedded', {})).toContain('floorSum.contact.pass');
    expect(work('contactBedded', { bare: '3' })).toContain('"percent":98.4,"atLeast":100');
    expect(work('contactBedded', { bare: '3', what: '1' })).toContain('floorSum.contact.pass');
    expect(work('contactBedded', { bare: '1;2;3;4', what: '1' })).toContain('floorSum.contact.fail');
  });
  it('put the order of a drain by its access below', () => {
    expect(work('order', { access: '0' })).toContain('floorSum.order.below.1');
    expect(work('order', { access: '1' })).toContain('floorSum.order.none.4');
  });
  it('tell mortar in bags from the drawing', () => {
    expect(work('bed', {})).toMatch(/floorSum.bed.bags {"count":\d+/);
    expect(work('bed', {}, 'mm')).toContain(' L"');
  });
  it('cut a tray so that its drain stays', () => {
    expect(work('tray', { trayWidth: '72', trayDepth: '48' })).toContain('floorSum.tray.cuts');
    expect(work('tray', { trayWidth: 'wide' })).toMatch(/^trayWidth: .*wide/);
    expect(work('tray', {})).toBe('trayWidth: ');
  });
  it('fit a pan into its frame, cut its pipe, find its middle', () => {
    expect(work('stall', { frames: '48 1/4; 48 5/16', pan: '48' })).toContain('floorSum.stall.fail');
    expect(work('stall', { frames: '48 3/16', pan: '48' })).toContain('floorSum.stall.pass');
    expect(work('pipe', { ridge: '3' })).toContain('floorSum.pipe.first {"cut":"2 7/8 in"}');
    expect(work('pipe', { ridge: '3' })).toContain('floorSum.pipe.then {"cut":"3 in"}');
    expect(work('centre', {})).toContain('floorSum.centre.at');
    expect(work('centre', { board: 'x' })).toMatch(/^board: .*x/);
  });
});

describe('sums of boards, liner, bands and primer', () => {
  it('buy the roll that is wide enough, or say what is missing', () => {
    expect(work('liner', { width: '84', depth: '47', turnUp: '6', overCurb: '0' })).toMatch(
      /liner.roll.*"roll":"60 in"/,
    );
    expect(work('liner', { width: '96', depth: '72', turnUp: '6', overCurb: '0' })).toMatch(
      /liner.short.*"short":"12 in"/,
    );
  });
  it('cut a board less its neighbour, with the hole where it then lies', () => {
    const cut = work('board', {
      top: '36',
      bottom: '35 3/4',
      neighbours: '1',
      valveFrom: '16 1/2',
      valveOver: '44 3/8',
    });
    expect(cut).toMatch(/"top":"35 1\/2 in"/);
    expect(cut).toContain('taper');
    expect(cut).toMatch(/"edge":"16 in"/);
  });
  it('tell what room a band has, and mix a primer', () => {
    expect(work('band', {})).toMatch(/band.pass.*"a":"2 7\/16 in"/);
    expect(work('band', { off: '1/2' })).toContain('band.fail');
    expect(work('primer', { area: '250', coverage: '250', parts: '4' })).toMatch(/"product":"0.8 qt"/);
  });
});
