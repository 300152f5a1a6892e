import { DeviceList, DeviceReadings, ReadingsAsk, TakenPack } from '@careful-seam/contract/api/devices';
import { z } from 'zod';
import { listDevices, readingsAfter, takePack } from '../devices/deviceStore';
import { param, type Route, readQuery, uuidParam } from './route';

/** Who looks at what instruments measure. */
const LOOKING = { roles: ['inspector', 'manager'] as const, limit: 'usual' as const };

/** Instruments that send by themselves (SenML, RFC 8428), and what they measured. */
export const DEVICE_ROUTES: readonly Route[] = [
  {
    method: 'post',
    path: '/api/device/:code/readings',
    summary: 'Takes a SenML pack (RFC 8428) of an instrument in, by the code that the office gave it',
    roles: 'anyone',
    limit: 'usual',
    body: 'json',
    takes: z.array(z.record(z.string(), z.unknown())),
    gives: TakenPack,
    answer: ({ req, services }) =>
      takePack(services.store, param(req, 'code'), JSON.stringify(req.body), services.now()),
  },
  {
    ...LOOKING,
    method: 'get',
    path: '/api/devices',
    summary: 'Instruments that send by themselves, with what each said last',
    gives: DeviceList,
    answer: async ({ services }) => ({ devices: await listDevices(services.store, services.now()) }),
  },
  {
    ...LOOKING,
    method: 'get',
    path: '/api/devices/:id/readings',
    summary: 'Readings of an instrument after a moment',
    asks: ReadingsAsk,
    gives: DeviceReadings,
    answer: ({ req, services }) => {
      const { of, after } = readQuery(ReadingsAsk, req.query);
      return readingsAfter(services.store, uuidParam(req, 'link'), of, after ?? 0);
    },
  },
];
