import type { Sentences } from './sentences';

/** What can’t be traced. */
export const TRACE_ERRORS = {
  'trace-cause-twice': {
    en: '"{{cause}}" stands among the causes twice. Give each its own name.',
    es: '«{{cause}}» está dos veces entre las causas. Dé a cada una su nombre.',
  },
  'trace-given-missing': {
    en: '"{{cause}}" does not say how likely "{{evidence}}" is where it is the cause. Add it, from 0 to 1.',
    es: '«{{cause}}» no dice qué tan probable es «{{evidence}}» cuando ella es la causa. Añádalo, de 0 a 1.',
  },
  'trace-level-missing': {
    en: 'A flood wets what lies under its level: say it, in mm over the drain’s rim.',
    es: 'Una prueba de inundación moja lo que queda bajo su nivel: dígalo, en mm sobre el borde del desagüe.',
  },
  'trace-no-prior': {
    en: 'No cause is possible before anything was seen. Give at least one of them more than nothing.',
    es: 'Ninguna causa es posible antes de ver nada. Dé a una al menos más que nada.',
  },
  'trace-no-wall': {
    en: '"{{wall}}" is no wall of this shower. Choose one of its walls.',
    es: '«{{wall}}» no es una pared de esta ducha. Elija una de sus paredes.',
  },
  'trace-test-given-missing': {
    en: '"{{test}}" does not say how likely it shows water where "{{cause}}" is the cause. Add it, from 0 to 1.',
    es: '«{{test}}» no dice qué tan probable es que muestre agua si la causa es «{{cause}}». Añádalo, de 0 a 1.',
  },
  'trace-unexplained': {
    en: 'No cause explains all of this together: {{evidence}}. Look at it again, or add the cause that is missing.',
    es: 'Ninguna causa explica todo esto junto: {{evidence}}. Mírelo otra vez, o añada la causa que falta.',
  },
  'water-barrier-twice': {
    en: '"{{barrier}}" stands among the barriers twice. Give each its own name.',
    es: '«{{barrier}}» está dos veces entre las barreras. Dé a cada una su nombre.',
  },
  'water-end-unknown': {
    en: '"{{space}}" is not among the spaces. Add it, or check its name.',
    es: '«{{space}}» no está entre los espacios. Añádalo, o revise su nombre.',
  },
  'water-space-twice': {
    en: '"{{space}}" stands among the spaces twice. Give each its own name.',
    es: '«{{space}}» está dos veces entre los espacios. Dé a cada uno su nombre.',
  },
  'water-space-unknown': {
    en: '"{{barrier}}" stands at "{{space}}", which is not among the spaces. Add it, or check its name.',
    es: '«{{barrier}}» está junto a «{{space}}», que no está entre los espacios. Añádalo, o revise su nombre.',
  },
} as const satisfies Record<string, Sentences>;
