import { describe, expect, it } from 'vitest';
import { readPeople } from './readPeople';

describe('people from a pasted list', () => {
  it('a line each: name, role, crew, by tabs, semicolons or commas, in both languages', () => {
    const crews = ['Crew North', 'Crew South'];
    const read = (text: string) => readPeople(text, crews, ['ada']);
    const expected = [
      { name: 'Ada Quill', signIn: 'ada2', role: 'inspector', crew: null },
      { name: 'José Prado', signIn: 'jose', role: 'crew-lead', crew: 'Crew North' },
      { name: 'Mae Orr', signIn: 'mae', role: 'manager', crew: null },
    ];
    expect(read('Ada Quill,inspector\nJosé Prado,crew lead,crew north\nMae Orr,quality manager').people).toEqual(
      expected,
    );
    expect(
      read('Ada Quill\tInspector\t\nJosé Prado\tjefe de cuadrilla\tCrew North\nMae Orr\tgerente\t').people,
    ).toEqual(expected);
    expect(read('Ada Quill; inspectora\n\nJosé Prado; crew-lead; Crew North\nMae Orr; Manager\n').people).toEqual(
      expected,
    );
  });
  it('names each line that lacks something, and reads the others', () => {
    const { people, problems } = readPeople('Bo\n,inspector\nCy,crew lead,Nowhere\nDi,inspector\nDi Two,inspector', [
      'North',
    ]);
    expect(problems).toEqual([
      { line: 1, why: 'no-role' },
      { line: 2, why: 'no-name' },
      { line: 3, why: 'no-crew' },
    ]);
    expect(people.map((p) => p.signIn)).toEqual(['di', 'di2']);
  });
  it('makes a name to sign in with of anything', () => {
    const signIns = readPeople('李 雷,inspector\nX,inspector\nÅsa-Lill Öst,inspector', []).people.map((p) => p.signIn);
    expect(signIns).toEqual(['person', 'xx', 'asalill']);
  });
  it('nothing is nobody', () => {
    expect(readPeople('', [])).toEqual({ people: [], problems: [] });
    expect(readPeople(' \n \n', [])).toEqual({ people: [], problems: [] });
  });
});
