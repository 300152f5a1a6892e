import type { Sentences } from './sentences';

/** What can’t be planned. */
export const PLAN_ERRORS = {
  'plan-circle': {
    en: '"{{stage}}" waits for itself by way of what it needs. Take one of these needs away.',
    es: '«{{stage}}» se espera a sí misma por lo que necesita. Quite una de esas necesidades.',
  },
  'plan-need-unknown': {
    en: '"{{stage}}" needs "{{need}}", which is not among the stages. Add it, or check its name.',
    es: '«{{stage}}» necesita «{{need}}», que no está entre las etapas. Añádala, o revise su nombre.',
  },
  'plan-stage-twice': {
    en: '"{{stage}}" stands among the stages twice. Give each its own name.',
    es: '«{{stage}}» está dos veces entre las etapas. Dé a cada una su nombre.',
  },
  'plan-without-end': {
    en: 'This plan does not end within three years. Check hours, holidays and the days that are set.',
    es: 'Este plan no termina en tres años. Revise las horas, los días libres y los días fijados.',
  },
  'route-pin-outside': {
    en: '"{{stop}}" is pinned to a place that the day does not have: there are {{stops}}.',
    es: '«{{stop}}» está fijada en un lugar que el día no tiene: hay {{stops}}.',
  },
  'route-pin-twice': {
    en: '"{{stop}}" and "{{other}}" are pinned to the same place. Loose one of them.',
    es: '«{{stop}}» y «{{other}}» están fijadas en el mismo lugar. Suelte una de ellas.',
  },
  'route-stop-twice': {
    en: '"{{stop}}" stands among the stops twice. Give each its own id.',
    es: '«{{stop}}» está dos veces entre las paradas. Dé a cada una su id.',
  },
  'route-travel-rows': {
    en: 'Travel needs {{rows}} rows of {{rows}} minutes: where the day begins, then each stop.',
    es: 'Los viajes necesitan {{rows}} filas de {{rows}} minutos: donde empieza el día, luego cada parada.',
  },
  'route-window-reversed': {
    en: 'A window of "{{stop}}" closes before it opens. Exchange its two moments.',
    es: 'Una ventana de «{{stop}}» se cierra antes de abrirse. Intercambie sus dos momentos.',
  },
} as const satisfies Record<string, Sentences>;
