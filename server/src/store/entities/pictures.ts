import { EntitySchema } from 'typeorm';

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
