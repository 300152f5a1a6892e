import type { Reason } from '@careful-seam/core/outcome/issueValues';
import type { Language } from '../texts/language';

/** The same in both languages. */
type InBoth = Readonly<Record<Language, string>>;

/** Why a field is not valid: stands in the sentence after the name of the field. */
export const REASONS: Readonly<Record<Reason, InBoth>> = {
  missing: { en: 'it is missing', es: 'falta' },
  'wrong-type': { en: '{{expected|type}} is expected', es: 'se espera {{expected|type}}' },
  'too-small': { en: 'it must be at least {{bound}}', es: 'debe ser al menos {{bound}}' },
  'too-large': { en: 'it must be at most {{bound}}', es: 'debe ser como máximo {{bound}}' },
  'too-short': { en: 'it must have at least {{bound}} letters', es: 'debe tener al menos {{bound}} letras' },
  'too-long': { en: 'it may have at most {{bound}} letters', es: 'puede tener como máximo {{bound}} letras' },
  'too-few': { en: 'at least {{bound}} are needed', es: 'hacen falta al menos {{bound}}' },
  'too-many': { en: 'at most {{bound}} are taken', es: 'se toman como máximo {{bound}}' },
  'wrong-form': { en: 'it is not written as such a thing is', es: 'no está escrito como tal cosa se escribe' },
  'not-one-of': { en: 'it must be one of {{choices}}', es: 'debe ser uno de {{choices}}' },
  'unknown-key': { en: 'nobody knows {{keys}} here', es: 'aquí nadie conoce {{keys}}' },
  'fits-nothing': { en: 'it fits nothing that may stand there', es: 'no corresponde a nada que pueda estar allí' },
  'levels-miscounted': { en: 'there must be one level for each time', es: 'debe haber un nivel para cada hora' },
  'air-miscounted': {
    en: 'there must be one temperature and one humidity for each time',
    es: 'debe haber una temperatura y una humedad para cada hora',
  },
  'reason-missing': { en: '"not applicable" needs a reason', es: '«no corresponde» necesita un motivo' },
  'level-missing': { en: 'a flood needs its level', es: 'una inundación necesita su nivel' },
  'replacement-without-body': {
    en: 'a replacement carries the new body, a withdrawal none',
    es: 'un reemplazo lleva el contenido nuevo, un retiro ninguno',
  },
  'limit-without-side': {
    en: 'a limit needs atLeastMm or atMostMm',
    es: 'un límite necesita atLeastMm o atMostMm',
  },
  'range-without-side': { en: 'a range needs its least or its most', es: 'un intervalo necesita su menor o su mayor' },
  'range-reversed': { en: 'its most lies below its least', es: 'su mayor queda por debajo de su menor' },
  'sign-in-letters': {
    en: 'use 2 to 40 small letters, digits, dots or dashes',
    es: 'use de 2 a 40 letras minúsculas, cifras, puntos o guiones',
  },
  'time-zone-unknown': {
    en: 'choose a time zone of the IANA list, such as America/Chicago',
    es: 'elija una zona horaria de la lista IANA, como America/Chicago',
  },
  'hours-reversed': {
    en: 'work must end half an hour after it begins, or later',
    es: 'el trabajo debe terminar al menos media hora después de empezar',
  },
};

/** Values that are words of their own, by what they are: `{{role|role}}` in a sentence. */
export const VALUE_WORDS: Readonly<Record<string, Readonly<Record<string, InBoth>>>> = {
  type: {
    string: { en: 'a text', es: 'un texto' },
    number: { en: 'a number', es: 'un número' },
    int: { en: 'a whole number', es: 'un número entero' },
    boolean: { en: 'yes or no', es: 'sí o no' },
    array: { en: 'a list', es: 'una lista' },
    object: { en: 'an object', es: 'un objeto' },
    record: { en: 'an object', es: 'un objeto' },
  },
  part: {
    bench: { en: 'bench', es: 'banco' },
    niche: { en: 'niche', es: 'nicho' },
    penetration: { en: 'penetration', es: 'abertura' },
  },
  role: {
    inspector: { en: 'inspector', es: 'inspector' },
    manager: { en: 'manager', es: 'gerente' },
    'crew-lead': { en: 'crew lead', es: 'jefe de cuadrilla' },
  },
};
