import { EpochEntity, FirmKeyEntity, FirmSettingEntity, RuleBookEntity } from './firm';
import { MailEntity } from './mail';
import { CrewEntity, LinkEntity, SessionEntity, UserEntity } from './people';
import { PhotoEntity } from './pictures';
import { EntryEntity, JobEntity, ShowerEntity, ShowerHeadEntity } from './showers';
import { AnchorEntity, AuditEntity } from './trust';

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
