import { EntitySchema } from 'typeorm';

export interface UserRow {
  id: string;
  name: string;
  signIn: string;
  passwordHash: string;
  role: 'inspector' | 'manager' | 'crew-lead';
  crewId: string | null;
  disabled: boolean;
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

export interface SessionRow {
  tokenHash: string;
  userId: string;
  expiresAt: Date;
}
export const SessionEntity = new EntitySchema<SessionRow>({
  name: 'session',
  columns: {
    tokenHash: { type: 'text', name: 'token_hash', primary: true, primaryKeyConstraintName: 'session_pk' },
    userId: { type: 'uuid', name: 'user_id' },
    expiresAt: { type: 'timestamptz', name: 'expires_at' },
  },
});

export interface ShowerTableRow {
  id: string;
  name: string;
  job: string;
  crewId: string;
  headSeq: number;
  headHash: string | null;
  updatedAt: Date;
}
export const ShowerEntity = new EntitySchema<ShowerTableRow>({
  name: 'shower',
  columns: {
    id: { type: 'uuid', primary: true, primaryKeyConstraintName: 'shower_pk' },
    name: { type: 'text' },
    job: { type: 'text' },
    crewId: { type: 'text', name: 'crew_id' },
    headSeq: { type: 'integer', name: 'head_seq', default: 0 },
    headHash: { type: 'text', name: 'head_hash', nullable: true },
    updatedAt: { type: 'timestamptz', name: 'updated_at' },
  },
  indices: [
    { name: 'shower_by_crew', columns: ['crewId', 'updatedAt'] },
    { name: 'shower_by_update', columns: ['updatedAt'] },
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
  body: unknown;
  orderAt: string;
  receivedAt: Date;
  prevLedgerHash: string | null;
  ledgerHash: string;
  skewMs: number;
}
export const EntryEntity = new EntitySchema<EntryRow>({
  name: 'entry',
  columns: {
    id: { type: 'uuid', primary: true, primaryKeyConstraintName: 'entry_pk' },
    showerId: { type: 'uuid', name: 'shower_id' },
    ledgerSeq: { type: 'integer', name: 'ledger_seq' },
    kind: { type: 'text' },
    authorId: { type: 'text', name: 'author_id' },
    deviceId: { type: 'uuid', name: 'device_id' },
    deviceSeq: { type: 'integer', name: 'device_seq' },
    hash: { type: 'text' },
    text: { type: 'text' },
    body: { type: 'jsonb' },
    orderAt: { type: 'text', name: 'order_at' },
    receivedAt: { type: 'timestamptz', name: 'received_at', precision: 3 },
    prevLedgerHash: { type: 'text', name: 'prev_ledger_hash', nullable: true },
    ledgerHash: { type: 'text', name: 'ledger_hash' },
    skewMs: { type: 'bigint', name: 'skew_ms', transformer: { to: (x: number) => x, from: Number } },
  },
  uniques: [
    { name: 'entry_ledger_place', columns: ['showerId', 'ledgerSeq'] },
    { name: 'entry_device_place', columns: ['showerId', 'deviceId', 'deviceSeq'] },
  ],
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
  id: string;
  version: number;
  data: unknown;
}
export const RuleBookEntity = new EntitySchema<RuleBookRow>({
  name: 'rule_book',
  columns: {
    id: { type: 'text', primary: true, primaryKeyConstraintName: 'rule_book_pk' },
    version: { type: 'integer', primary: true, primaryKeyConstraintName: 'rule_book_pk' },
    data: { type: 'jsonb' },
  },
});

export const ENTITIES = [UserEntity, CrewEntity, SessionEntity, ShowerEntity, EntryEntity, PhotoEntity, RuleBookEntity];
