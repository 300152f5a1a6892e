import type { Body, EntryKind } from '@careful-seam/core/log/bodies';
import type { Role } from '@careful-seam/core/log/roles';
import { type ChainEnd, writeEntry } from '@careful-seam/core/log/writeEntry';
import { v4 } from 'uuid';

/** A tablet without a screen: seals entries in a chain of its own. */
export function testTablet(
  person: { id: string; name: string; role: Role },
  showerId: string,
  lastOrderAt: string | null = null,
) {
  let end: ChainEnd = { deviceId: v4(), deviceSeq: 0, prevDeviceHash: null, lastOrderAt };
  let nowMs = Date.now();
  return {
    showerId,
    seal: <K extends EntryKind>(kind: K, body: Body<K>, change: { id?: string; authorId?: string } = {}): string => {
      nowMs += 10;
      const written = writeEntry(
        {
          id: change.id ?? v4(),
          showerId,
          kind,
          body,
          author: { id: change.authorId ?? person.id, name: person.name, role: person.role },
          geometryVersion: 1,
          nowMs,
          offsetMinutes: 0,
        },
        end,
      );
      end = written.end;
      return written.sealed.text;
    },
  };
}
