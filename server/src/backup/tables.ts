/**
 * What a backup holds of the database, table by table, in an order in which nothing is missed. What is left out is of the
 * moment alone: a restore revives nobody's session and no code that was used.
 */
export const TABLES = [
  'firm_setting',
  'firm_key',
  'demo_firm',
  'crew',
  'firm_user',
  'access_link',
  'job',
  'rule_book',
  'shower',
  'shower_head',
  'entry',
  'photo',
  'mail',
  'audit',
  'anchor',
  'server_epoch',
  'firm_mark',
  'look_plan',
  'blind_look',
  'blind_answer',
  'old_table',
  'old_defect',
  'plan_note',
  'device_reading',
] as const;
/** Tables that are not of the firm: they are made anew. */
export const LEFT_OUT = [
  'session',
  'set_up_code',
  'tries',
  'migrations',
  'shower_queue',
  'projection',
  'projection_place',
  'facts_in_force',
  'defect_counted',
  'inspected_counted',
  'pass_counted',
  'minutes_counted',
  'found_counted',
  'shower_ahead',
  'chore',
  'server_day',
] as const;

/** A name of the database as it stands in a statement. */
export const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`;
