import { EntitySchema } from 'typeorm';

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
