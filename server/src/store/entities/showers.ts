import { EntitySchema } from 'typeorm';

export interface ShowerTableRow {
  id: string;
  name: string;
  job: string;
  crewId: string;
  /** Crews that a stage of it was handed to. */
  alsoCrews: string[];
  /** Who looks at it; null: whoever comes. */
  inspectorId: string | null;
  /** ISO day of the next visit, as the office plans it, or null. */
  visitOn: string | null;
  /** Whose rule books it was judged by where it came in a file from elsewhere; empty: the firm's own. */
  bookOrigin: string;
}
export const ShowerEntity = new EntitySchema<ShowerTableRow>({
  name: 'shower',
  columns: {
    id: { type: 'uuid', primary: true, primaryKeyConstraintName: 'shower_pk' },
    name: { type: 'text' },
    job: { type: 'text' },
    crewId: { type: 'text', name: 'crew_id' },
    alsoCrews: { type: 'text', array: true, name: 'also_crews', default: '{}' },
    inspectorId: { type: 'uuid', name: 'inspector_id', nullable: true },
    visitOn: { type: 'date', name: 'visit_on', nullable: true },
    bookOrigin: { type: 'text', name: 'book_origin', default: '' },
  },
  indices: [
    { name: 'shower_by_visit', columns: ['visitOn'], where: '"visit_on" IS NOT NULL' },
    { name: 'shower_search', synchronize: false },
    { name: 'shower_by_also_crew', synchronize: false },
    { name: 'shower_by_job', columns: ['job'] },
    { name: 'shower_by_crew', columns: ['crewId'] },
    { name: 'shower_by_inspector', columns: ['inspectorId'], where: '"inspector_id" IS NOT NULL' },
  ],
});
/** Hex digits outside, bytes in the database: half the room. */
const asHex = {
  to: (hex: string | null) => (hex === null ? null : Buffer.from(hex, 'hex')),
  from: (bytes: Buffer | null) => (bytes === null ? null : bytes.toString('hex')),
};
/** Where a shower's ledger stands. It moves with every entry, and holds nothing else, so that moving it costs little. */
export interface ShowerHeadRow {
  showerId: string;
  headSeq: number;
  headHash: string | null;
  updatedAt: Date;
  /** The last entry is the signature of its record: nothing is open here. */
  isSigned: boolean;
  /** Transaction that moved it; written by the database itself. */
  moved: string;
}
export const ShowerHeadEntity = new EntitySchema<ShowerHeadRow>({
  name: 'shower_head',
  columns: {
    showerId: { type: 'uuid', name: 'shower_id', primary: true, primaryKeyConstraintName: 'shower_head_pk' },
    headSeq: { type: 'integer', name: 'head_seq', default: 0 },
    headHash: { type: 'bytea', name: 'head_hash', nullable: true, transformer: asHex },
    updatedAt: { type: 'timestamptz', name: 'updated_at', precision: 3 },
    isSigned: { type: 'boolean', name: 'is_signed', default: false },
    moved: { type: 'bigint' },
  },
  indices: [
    { name: 'shower_head_moved', columns: ['moved'] },
    { name: 'shower_head_newest', columns: ['isSigned', 'updatedAt'] },
  ],
});
export interface EntryRow {
  id: string;
  showerId: string;
  ledgerSeq: number;
  kind: string;
  authorId: string;
  deviceId: string;
  deviceSeq: number;
  hash: string;
  text: string;
  orderAt: string;
  receivedAt: Date;
  prevLedgerHash: string | null;
  ledgerHash: string;
  /** What the clock of the device is off by, ms. */
  skewMs: number;
  /** Came in a file that this firm did not sign: nobody proved its chain. */
  imported: boolean;
}
export const EntryEntity = new EntitySchema<EntryRow>({
  name: 'entry',
  columns: {
    showerId: { type: 'uuid', name: 'shower_id', primary: true, primaryKeyConstraintName: 'entry_pk' },
    id: { type: 'uuid', primary: true, primaryKeyConstraintName: 'entry_pk' },
    ledgerSeq: { type: 'integer', name: 'ledger_seq' },
    kind: { type: 'text' },
    authorId: { type: 'text', name: 'author_id' },
    deviceId: { type: 'uuid', name: 'device_id' },
    deviceSeq: { type: 'integer', name: 'device_seq' },
    hash: { type: 'bytea', transformer: asHex },
    text: { type: 'text' },
    orderAt: { type: 'text', name: 'order_at' },
    receivedAt: { type: 'timestamptz', name: 'received_at', precision: 3 },
    prevLedgerHash: { type: 'bytea', name: 'prev_ledger_hash', nullable: true, transformer: asHex },
    ledgerHash: { type: 'bytea', name: 'ledger_hash', transformer: asHex },
    skewMs: { type: 'bigint', name: 'skew_ms', transformer: { to: (x: number) => x, from: Number } },
    imported: { type: 'boolean', default: false },
  },
  uniques: [
    { name: 'entry_ledger_place', columns: ['showerId', 'ledgerSeq'] },
    { name: 'entry_device_place', columns: ['showerId', 'deviceId', 'deviceSeq'] },
  ],
  indices: [{ name: 'entry_by_ledger_hash', columns: ['ledgerHash'] }],
});
export interface JobRow {
  name: string;
  address: string;
  /** IANA zone of the site. */
  timeZone: string;
}
export const JobEntity = new EntitySchema<JobRow>({
  name: 'job',
  columns: {
    name: { type: 'text', primary: true, primaryKeyConstraintName: 'job_pk' },
    address: { type: 'text' },
    timeZone: { type: 'text', name: 'time_zone' },
  },
});
