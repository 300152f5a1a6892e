import { useEffect } from 'react';
import { useFirmUnit, useSpokenLanguage } from '../shared/language';
import { useStore } from '../tablet/store';
import { UpdateBar } from './UpdateBar';

/** What runs behind every screen once the tablet's store is here: it is opened, and the firm's language and unit hold. */
export function Behind() {
  const open = useStore((s) => s.open);
  useSpokenLanguage();
  useFirmUnit();
  useEffect(() => void open(), [open]);
  return <UpdateBar />;
}
