import { ledgerSuite } from '../tests/ledgerSuite';
import { MemoryLedger } from '../tests/memoryLedger';

ledgerSuite('in memory', async () => new MemoryLedger());
