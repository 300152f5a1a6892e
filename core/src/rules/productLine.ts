import { z } from 'zod';

/** What a product line may be; a part of the kit names which of these it is. */
export const LINE_KINDS = [
  'membrane',
  'board',
  'pan',
  'drain',
  'band',
  'corner',
  'seal',
  'mortar',
  'sealant',
  'primer',
  'fabric',
] as const;
/** What a product is. */
export type LineKind = (typeof LINE_KINDS)[number];

/** Least and most of a figure as a label states them. */
const Range = z
  .object({ least: z.number().min(0).optional(), most: z.number().min(0).optional() })
  .refine((r) => r.least !== undefined || r.most !== undefined, 'range-without-side')
  .refine((r) => (r.least ?? 0) <= (r.most ?? Infinity), 'range-reversed');
/** What a label states of a figure: a least, a most or both. */
export type LabelRange = z.infer<typeof Range>;

/** The mortar that a label asks for. */
export const MORTAR_KINDS = ['unmodified', 'modified', 'either'] as const;

/** Figures that a label states. Films in µm, lengths in mm, times in hours, permeance in US perm, temperatures in °C. */
export const LABEL_FIGURES = {
  wetUm: 'um',
  dryUm: 'um',
  coats: 'count',
  recoatHours: 'hours',
  waterHours: 'hours',
  tileHours: 'hours',
  notchMm: 'mm',
  permeancePerm: 'perm',
  workingC: 'celsius',
  solidsPercent: 'percent',
} as const;
/** A figure of a label by its name. */
export type LabelFigure = keyof typeof LABEL_FIGURES;
const FIGURES = Object.keys(LABEL_FIGURES) as [LabelFigure, ...LabelFigure[]];

/** A check that takes its limit from the label of a product line of this kind, where the shower has one. */
export const FromLabel = z.object({ line: z.enum(LINE_KINDS), figure: z.enum(FIGURES) });

/** A product as its label and papers describe it, entered by the firm. */
export const ProductLine = z.object({
  id: z.string().min(1).max(60),
  name: z.string().trim().min(1).max(120),
  /** Who makes it: lines of one maker are taken to go together. */
  maker: z.string().trim().min(1).max(120),
  kind: z.enum(LINE_KINDS),
  /** Methods that it is made for. */
  methods: z.array(z.string().min(1)).min(1),
  figures: z.partialRecord(z.enum(FIGURES), Range).default({}),
  /** Of a mortar, what it is; of all else, what its label wants it set in. */
  mortarKind: z.enum(MORTAR_KINDS).optional(),
  /** Where the figures were read: the label or the sheet, with its date. */
  readFrom: z.string().trim().min(1).max(200),
  /** Other lines that its maker approves in writing, each with the paper that says so. */
  goesWith: z.array(z.object({ line: z.string().min(1), paper: z.string().trim().min(1).max(200) })).default([]),
  /** Its maker's warranty asks for this maker's own parts. */
  ownPartsOnly: z.boolean().default(false),
});
export type ProductLine = z.infer<typeof ProductLine>;
