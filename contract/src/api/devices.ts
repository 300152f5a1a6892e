import { z } from 'zod';

/** Instruments that send by themselves, by the codes that the office gave them. Moments in ms since 1970. */

/** What an instrument can measure, each in one unit whatever it sends: mm over its own zero, °C, a share, % of wood. */
export const DEVICE_QUANTITIES = ['level', 'pan', 'temperature', 'humidity', 'moisture', 'battery'] as const;
/** One of them. */
export type DeviceQuantity = (typeof DEVICE_QUANTITIES)[number];

/** Readings that are told at once. */
export const READINGS_TOLD = 20_000;

/** What the server says of a pack. */
export const TakenPack = z.object({
  /** Readings that are stored now and were not before. */
  stored: z.number().int(),
  /** Readings that were there already: sent again after a break. */
  known: z.number().int(),
  /** Records that hold nothing that is known here. */
  left: z.number().int(),
  /** By how much the instrument's clock was put right, ms; 0 where it was sound. */
  shiftedMs: z.number(),
});
/** What the server says of a pack. */
export type TakenPack = z.infer<typeof TakenPack>;

/** An instrument and what it said last. */
export const DeviceLine = z.object({
  id: z.uuid(),
  label: z.string(),
  /** When its last reading was made; null where it never sent one. */
  lastMs: z.number().nullable(),
  readings: z.number().int(),
  quantities: z.array(z.enum(DEVICE_QUANTITIES)),
});
/** One of them. */
export type DeviceLine = z.infer<typeof DeviceLine>;
/** All that may still send. */
export const DeviceList = z.object({ devices: z.array(DeviceLine) });

/** Which readings are wanted: one quantity, after a moment. */
export const ReadingsAsk = z.object({
  of: z.enum(DEVICE_QUANTITIES).default('level'),
  after: z.coerce.number().optional(),
});
/** Readings in their order, each with its moment; asked again from the last one on where there are more. */
export const DeviceReadings = z.object({
  readings: z.array(z.object({ atMs: z.number(), value: z.number() })),
  more: z.boolean(),
});
/** Readings of one instrument. */
export type DeviceReadings = z.infer<typeof DeviceReadings>;
