import { EntitySchema } from 'typeorm';

export interface UserRow {
  id: string;
  name: string;
  signIn: string;
  passwordHash: string;
  role: 'inspector' | 'manager' | 'crew-lead';
  crewId: string | null;
  disabled: boolean;
  email: string | null;
  /** The language that this person chose on a tablet; null: the firm's. */
  language: 'en' | 'es' | null;
}
export const UserEntity = new EntitySchema<UserRow>({
  name: 'firm_user',
  columns: {
    id: { type: 'uuid', primary: true, primaryKeyConstraintName: 'firm_user_pk' },
    name: { type: 'text' },
    signIn: { type: 'text', name: 'sign_in' },
    passwordHash: { type: 'text', name: 'password_hash' },
    role: { type: 'text' },
    crewId: { type: 'text', name: 'crew_id', nullable: true },
    disabled: { type: 'boolean', default: false },
    email: { type: 'text', nullable: true },
    language: { type: 'text', nullable: true },
  },
  uniques: [{ name: 'firm_user_sign_in', columns: ['signIn'] }],
});

export interface CrewRow {
  id: string;
  name: string;
}
export const CrewEntity = new EntitySchema<CrewRow>({
  name: 'crew',
  columns: { id: { type: 'text', primary: true, primaryKeyConstraintName: 'crew_pk' }, name: { type: 'text' } },
});

/** A signed-in person, or somebody who came by a crew's link: one of the two is set. */
export interface SessionRow {
  tokenHash: string;
  userId: string | null;
  linkId: string | null;
  expiresAt: Date;
}
export const SessionEntity = new EntitySchema<SessionRow>({
  name: 'session',
  columns: {
    tokenHash: { type: 'text', name: 'token_hash', primary: true, primaryKeyConstraintName: 'session_pk' },
    userId: { type: 'uuid', name: 'user_id', nullable: true },
    linkId: { type: 'uuid', name: 'link_id', nullable: true },
    expiresAt: { type: 'timestamptz', name: 'expires_at' },
  },
});

export interface ShowerTableRow {
  id: string;
  name: string;
  job: string;
  crewId: string;
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
    inspectorId: { type: 'uuid', name: 'inspector_id', nullable: true },
    visitOn: { type: 'date', name: 'visit_on', nullable: true },
    bookOrigin: { type: 'text', name: 'book_origin', default: '' },
  },
  indices: [
    { name: 'shower_by_visit', columns: ['visitOn'], where: '"visit_on" IS NOT NULL' },
    { name: 'shower_search', synchronize: false },
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

export interface PhotoRow {
  hash: string;
  mime: string;
  bytes: number;
  widthPx: number;
  heightPx: number;
  receivedAt: Date;
}
export const PhotoEntity = new EntitySchema<PhotoRow>({
  name: 'photo',
  columns: {
    hash: { type: 'text', primary: true, primaryKeyConstraintName: 'photo_pk' },
    mime: { type: 'text' },
    bytes: { type: 'integer' },
    widthPx: { type: 'integer', name: 'width_px' },
    heightPx: { type: 'integer', name: 'height_px' },
    receivedAt: { type: 'timestamptz', name: 'received_at' },
  },
});

export interface RuleBookRow {
  origin: string;
  id: string;
  version: number;
  data: unknown;
}
export const RuleBookEntity = new EntitySchema<RuleBookRow>({
  name: 'rule_book',
  columns: {
    /** Empty: the firm's own; else whose it is. */
    origin: { type: 'text', primary: true, primaryKeyConstraintName: 'rule_book_pk', default: '' },
    id: { type: 'text', primary: true, primaryKeyConstraintName: 'rule_book_pk' },
    version: { type: 'integer', primary: true, primaryKeyConstraintName: 'rule_book_pk' },
    data: { type: 'jsonb' },
  },
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

export interface LinkRow {
  id: string;
  kind: 'crew' | 'record' | 'password';
  codeHash: string;
  label: string;
  crewId: string | null;
  showerId: string | null;
  userId: string | null;
  createdBy: string;
  createdAt: Date;
  expiresAt: Date;
  revokedAt: Date | null;
  lastUsedAt: Date | null;
  uses: number;
}
export const LinkEntity = new EntitySchema<LinkRow>({
  name: 'access_link',
  columns: {
    id: { type: 'uuid', primary: true, primaryKeyConstraintName: 'access_link_pk' },
    kind: { type: 'text' },
    codeHash: { type: 'text', name: 'code_hash' },
    label: { type: 'text' },
    crewId: { type: 'text', name: 'crew_id', nullable: true },
    showerId: { type: 'uuid', name: 'shower_id', nullable: true },
    userId: { type: 'uuid', name: 'user_id', nullable: true },
    createdBy: { type: 'uuid', name: 'created_by' },
    createdAt: { type: 'timestamptz', name: 'created_at' },
    expiresAt: { type: 'timestamptz', name: 'expires_at' },
    revokedAt: { type: 'timestamptz', name: 'revoked_at', nullable: true },
    lastUsedAt: { type: 'timestamptz', name: 'last_used_at', nullable: true },
    uses: { type: 'integer', default: 0 },
  },
  uniques: [{ name: 'access_link_code', columns: ['codeHash'] }],
});

export interface FirmSettingRow {
  id: number;
  data: unknown;
}
export const FirmSettingEntity = new EntitySchema<FirmSettingRow>({
  name: 'firm_setting',
  columns: {
    id: { type: 'integer', primary: true, primaryKeyConstraintName: 'firm_setting_pk' },
    data: { type: 'jsonb' },
  },
});

export interface MailRow {
  id: string;
  recipient: string;
  subject: string;
  words: string;
  madeAt: Date;
  /** When it left by SMTP; null while it waits, and always in the simulated outbox. */
  sentAt: Date | null;
  problem: string | null;
  tries: number;
  /** What it tells of: for that a recipient gets one. */
  about: string | null;
  /** What stands for "{secret}" in its words, a link for one person; gone once it was sent. */
  secret: string | null;
  /** When it is tried next; null while it was not tried, and when it is given up. */
  nextAt: Date | null;
}
export const MailEntity = new EntitySchema<MailRow>({
  name: 'mail',
  columns: {
    id: { type: 'uuid', primary: true, primaryKeyConstraintName: 'mail_pk' },
    recipient: { type: 'text' },
    subject: { type: 'text' },
    words: { type: 'text' },
    madeAt: { type: 'timestamptz', name: 'made_at' },
    sentAt: { type: 'timestamptz', name: 'sent_at', nullable: true },
    problem: { type: 'text', nullable: true },
    tries: { type: 'integer', default: 0 },
    about: { type: 'text', nullable: true, default: null },
    secret: { type: 'text', nullable: true },
    nextAt: { type: 'timestamptz', name: 'next_at', nullable: true },
  },
  uniques: [{ name: 'mail_once', columns: ['about', 'recipient'] }],
  indices: [
    { name: 'mail_by_time', columns: ['madeAt'] },
    { name: 'mail_waiting', columns: ['nextAt'], where: 'sent_at IS NULL' },
  ],
});

export interface AuditRow {
  id: string;
  at: Date;
  whoId: string;
  who: string;
  did: string;
  about: string;
  detail: object;
}
export const AuditEntity = new EntitySchema<AuditRow>({
  name: 'audit',
  columns: {
    id: { type: 'uuid', primary: true, primaryKeyConstraintName: 'audit_pk' },
    at: { type: 'timestamptz' },
    whoId: { type: 'text', name: 'who_id' },
    who: { type: 'text' },
    did: { type: 'text' },
    about: { type: 'text' },
    detail: { type: 'jsonb' },
  },
  indices: [{ name: 'audit_by_time', columns: ['at'] }],
});

export interface AnchorRow {
  seq: number;
  day: string;
  /** Canonical JSON: the anchor before it and every head that moved since. */
  text: string;
  hash: string;
}
export const AnchorEntity = new EntitySchema<AnchorRow>({
  name: 'anchor',
  columns: {
    seq: { type: 'integer', primary: true, primaryKeyConstraintName: 'anchor_pk' },
    day: { type: 'date' },
    text: { type: 'text' },
    hash: { type: 'text' },
  },
  uniques: [{ name: 'anchor_day', columns: ['day'] }],
});

export interface FirmKeyRow {
  id: string;
  publicKey: string;
  privateKey: string;
  madeAt: Date;
}
export const FirmKeyEntity = new EntitySchema<FirmKeyRow>({
  name: 'firm_key',
  columns: {
    id: { type: 'text', primary: true, primaryKeyConstraintName: 'firm_key_pk' },
    publicKey: { type: 'text', name: 'public_key' },
    privateKey: { type: 'text', name: 'private_key' },
    madeAt: { type: 'timestamptz', name: 'made_at' },
  },
});

export interface EpochRow {
  id: string;
  openedAt: Date;
  why: string;
}
export const EpochEntity = new EntitySchema<EpochRow>({
  name: 'server_epoch',
  columns: {
    id: { type: 'uuid', primary: true, primaryKeyConstraintName: 'server_epoch_pk' },
    openedAt: { type: 'timestamptz', name: 'opened_at' },
    why: { type: 'text' },
  },
});

export const ENTITIES = [
  UserEntity,
  CrewEntity,
  SessionEntity,
  ShowerEntity,
  ShowerHeadEntity,
  EntryEntity,
  PhotoEntity,
  RuleBookEntity,
  JobEntity,
  LinkEntity,
  FirmSettingEntity,
  MailEntity,
  AuditEntity,
  AnchorEntity,
  FirmKeyEntity,
  EpochEntity,
];
