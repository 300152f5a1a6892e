import type { LaidLayer } from '@careful-seam/core/checks/cureOfShower';
import type { Method } from '@careful-seam/core/rules/ruleBook';
import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import type { Words } from '../texts/language';
import { elementName } from '../texts/names';
import type { ShownUnit } from './sentences';

/** A temperature in the person's own degrees. */
export function temperatureWords(celsius: number, unit: ShownUnit): string {
  return unit === 'in' ? `${Math.round(celsius * 1.8 + 32)} °F` : `${Math.round(celsius * 10) / 10} °C`;
}

/** Hours as people say them: "9 h 20 min", "2 days 3 h". */
export function hoursWords(t: Words, hours: number): string {
  const minutes = Math.max(0, Math.round(hours * 60));
  const [days, h, min] = [Math.floor(minutes / 1440), Math.floor((minutes % 1440) / 60), minutes % 60];
  if (days > 0) return t('cure.daysHours', { count: days, hours: h });
  if (h > 0 && min === 0) return t('cure.hours', { hours: h });
  return h > 0 ? t('cure.hoursMinutes', { hours: h, minutes: min }) : t('cure.minutes', { minutes: min });
}

/** What a layer is: "coat 2 on lower walls", "redone: foot of wall B", "work of the membrane". */
export function layerName(t: Words, model: ShowerModel, method: Method, layer: LaidLayer): string {
  if (layer.coat)
    return t('cure.layer.coat', {
      coat: layer.coat.number,
      zones: layer.coat.zones.map((z) => t(`zone.${z}`)).join(', '),
    });
  const stage = method.stages.find((s) => s.key === layer.stage)?.label ?? layer.stage;
  if (layer.told === 'redo' && layer.element)
    return t('cure.layer.redo', { where: elementName(t, model, layer.element) });
  return t(`cure.layer.${layer.told}`, { stage });
}

/** A figure with its degrees, if they are typed. */
const NUMBER = /^([-+−]?\d+(?:[.,]\d+)?)\s*°?\s*([cCfF])?$/;

/** A temperature as typed, °C: a bare figure is in the person's own degrees, "68 F" and "20 °C" say theirs. Null: unreadable. */
export function readTemperature(text: string, unit: ShownUnit): number | null {
  const found = NUMBER.exec(text.trim());
  if (!found) return null;
  const figure = Number(found[1]!.replace(',', '.').replace('−', '-'));
  const said = found[2]?.toLowerCase() ?? (unit === 'in' ? 'f' : 'c');
  return said === 'f' ? ((figure - 32) * 5) / 9 : figure;
}

/** A humidity as typed, a share: 55, 55 % or 0.55. Null: unreadable or beyond 0 to 100 %. */
export function readHumidity(text: string): number | null {
  const tidy = text.trim().replace(/\s*%$/, '').replace(',', '.');
  if (tidy === '' || !/^\d*\.?\d+$/.test(tidy)) return null;
  const figure = Number(tidy);
  const share = figure <= 1 && tidy.includes('.') ? figure : figure / 100;
  return share >= 0 && share <= 1 ? share : null;
}
