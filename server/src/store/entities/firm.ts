import { EntitySchema } from 'typeorm';

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
export interface FirmKeyRow {
  id: string;
  publicKey: string;
  privateKey: string;
  /** When it was made. */
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
