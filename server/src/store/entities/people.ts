import { EntitySchema } from 'typeorm';

export interface UserRow {
  id: string;
  name: string;
  signIn: string;
  /** Argon2id. */
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
  /** The crew that it has become part of, which is part of none. */
  into: string | null;
}
export const CrewEntity = new EntitySchema<CrewRow>({
  name: 'crew',
  columns: {
    id: { type: 'text', primary: true, primaryKeyConstraintName: 'crew_pk' },
    name: { type: 'text' },
    into: { type: 'text', name: 'into_crew', nullable: true },
  },
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
export interface LinkRow {
  id: string;
  kind: 'crew' | 'record' | 'password' | 'calendar' | 'device';
  codeHash: string;
  label: string;
  crewId: string | null;
  showerId: string | null;
  userId: string | null;
  /** The job whose calendar it tells; null for all else. */
  job: string | null;
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
    job: { type: 'text', nullable: true },
    createdBy: { type: 'uuid', name: 'created_by' },
    createdAt: { type: 'timestamptz', name: 'created_at' },
    expiresAt: { type: 'timestamptz', name: 'expires_at' },
    revokedAt: { type: 'timestamptz', name: 'revoked_at', nullable: true },
    lastUsedAt: { type: 'timestamptz', name: 'last_used_at', nullable: true },
    uses: { type: 'integer', default: 0 },
  },
  uniques: [{ name: 'access_link_code', columns: ['codeHash'] }],
});
