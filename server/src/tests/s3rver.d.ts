/** The part of the package that tests use; it has no types of its own. */
declare module 's3rver' {
  import type { AddressInfo } from 'node:net';

  export default class S3rver {
    constructor(options: {
      address: string;
      port: number;
      silent: boolean;
      directory: string;
      configureBuckets: { name: string; configs: Buffer[] }[];
    });
    run(): Promise<AddressInfo>;
    close(): Promise<void>;
  }
}
