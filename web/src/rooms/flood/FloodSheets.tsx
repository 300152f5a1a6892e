import type { FloodTest } from '@careful-seam/core/log/floodTest';
import type { FloodCheck } from '@careful-seam/core/rules/checks/flood';
import type { LocalShower } from '../../tablet/store';
import { ClimateSheet } from './ClimateSheet';
import { EndSheet } from './EndSheet';
import { EventSheet } from './EventSheet';
import { LiveSheet } from './LiveSheet';
import { LoggerSheet } from './LoggerSheet';
import { MoistureSheet } from './MoistureKeys';
import { ReadSheet } from './ReadSheet';

/** The sheets of the flood screen. */
export type SheetName = 'read' | 'file' | 'event' | 'climate' | 'moisture' | 'end' | 'live';
/** The sheet that is open, with what it needs. */
interface SheetProps {
  /** The shower as this tablet has worked it out. */
  shower: LocalShower;
  /** The flood test that is under way, or that ended last. */
  test: FloodTest;
  /** What the rule book asks, with its limits. */
  check: FloodCheck;
  /** Time zone of the site, by its IANA name. */
  zone: string;
  /** Which one. */
  sheet: SheetName;
  /** The moment that the verdict asks about, ms since 1970. */
  askedMs: number | null;
  /** Told when it is done with, kept or not. */
  onClose: () => void;
}
/** What lies over a test: a reading, a file, what happened, the air, the looks, its end. */
export function FloodSheets({ shower, test, check, zone, sheet, askedMs, onClose }: SheetProps) {
  const common = { showerId: shower.id, onClose };
  switch (sheet) {
    case 'read':
      return <ReadSheet {...common} test={test} zone={zone} />;
    case 'file':
      return <LoggerSheet {...common} test={test} zone={zone} />;
    case 'live':
      return <LiveSheet shower={shower} test={test} zone={zone} onClose={onClose} />;
    case 'event':
      return <EventSheet {...common} test={test} zone={zone} askedMs={askedMs} />;
    case 'climate':
      return <ClimateSheet {...common} />;
    case 'moisture':
      return <MoistureSheet {...common} check={check} />;
    case 'end':
      return <EndSheet shower={shower} test={test} check={check} zone={zone} onClose={onClose} />;
  }
}
