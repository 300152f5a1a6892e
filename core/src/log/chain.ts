import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import canonicalize from 'canonicalize';
import { done, type Outcome, refuse } from '../outcome/outcome';
import type { Entry } from './entry';

/** RFC 8785 canonical JSON of a value. Throws for what JSON can't hold. */
export function canonicalText(value: unknown): string {
  const text = canonicalize(value);
  if (text === undefined) throw new TypeError('this value has no JSON form');
  return text;
}

/** SHA-256 as 64 hex digits, of text (as UTF-8) or of bytes. */
export function sha256Hex(data: string | Uint8Array): string {
  return bytesToHex(sha256(typeof data === 'string' ? utf8ToBytes(data) : data));
}

/** An entry with the text that is stored and hashed. */
export interface SealedEntry {
  /** The entry as it is read. */
  entry: Entry;
  /** What was sealed, letter by letter. */
  text: string;
  /** SHA-256 of the text, hex. */
  hash: string;
}

/** The entry with its canonical text and the hash of that text. */
export function seal(entry: Entry): SealedEntry {
  const text = canonicalText(entry);
  return { entry, text, hash: sha256Hex(text) };
}

/** One place in the server's ledger: its hash covers the entry and everything before it. */
export interface LedgerLink {
  /** Its place in the ledger of the shower, 1, 2, 3… */
  ledgerSeq: number;
  /** Hash of the entry. */
  entryHash: string;
  /** Hash of the link before; null for the first. */
  prevLedgerHash: string | null;
  /** When the server took it, ISO 8601. */
  receivedAt: string;
  /** Server time less the device's time when it was sent, ms. */
  skewMs: number;
}

/** SHA-256 over the canonical JSON of a link, 64 hex digits. */
export function ledgerHash(link: LedgerLink): string {
  return sha256Hex(canonicalText(link));
}

/** A device's chain: numbers without gaps, each entry naming the one before. `last` is the newest accepted one. */
export function continuesChain(entry: Entry, last: { deviceSeq: number; hash: string } | null): Outcome<null> {
  const wanted = (last?.deviceSeq ?? 0) + 1;
  if (entry.deviceSeq > wanted) return refuse('chain-gap', 'deviceSeq', { came: entry.deviceSeq, due: wanted });
  if (entry.deviceSeq < wanted) return refuse('chain-broken', 'deviceSeq');
  if (entry.prevDeviceHash !== (last?.hash ?? null)) {
    return refuse('chain-broken', 'prevDeviceHash');
  }
  return done(null);
}
