import about from '../../../package.json';

/** Version of this program, as its package names it. */
export const PROGRAM_VERSION: string = about.version;
