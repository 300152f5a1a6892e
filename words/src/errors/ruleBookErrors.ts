import type { Sentences } from './sentences';

/** What is wrong with a rule book or with a product line in it. */
export const BOOK_ERRORS = {
  'check-film-reversed': {
    en: '"{{check}}": the greatest film lies under the least. Check both.',
    es: '«{{check}}»: la película mayor queda por debajo de la menor. Revise las dos.',
  },
  'check-kind-missing': {
    en: '"{{check}}" names the kind of defect "{{kind}}", which the book does not hold. Add it, or name another.',
    es: '«{{check}}» nombra el tipo de defecto «{{kind}}», que el libro no contiene. Añádalo, o nombre otro.',
  },
  'check-limits-reversed': {
    en: '"{{check}}": the upper limit lies below the lower one. Check both.',
    es: '«{{check}}»: el límite superior queda por debajo del inferior. Revise los dos.',
  },
  'check-question-missing': {
    en: '"{{check}}" stands for the question {{question}}, which the book does not hold. Add it, or take the check out.',
    es: '«{{check}}» responde a la pregunta {{question}}, que el libro no contiene. Añádala, o quite la revisión.',
  },
  'check-stage-missing': {
    en: '"{{check}}" waits for the stage "{{stage}}", which this method has not. Name another.',
    es: '«{{check}}» espera a la etapa «{{stage}}», que este método no tiene. Nombre otra.',
  },
  'check-twice': {
    en: '"{{check}}" stands twice in {{stage}} of {{method}}. Give each check its own id.',
    es: '«{{check}}» está dos veces en {{stage}} de {{method}}. Dé a cada revisión su propio identificador.',
  },
  'line-dry-over-wet': {
    en: '"{{line}}": its dry film is larger than its wet coats can leave. Check films, coats and solids on the label.',
    es: '«{{line}}»: su película seca es mayor de lo que pueden dejar sus manos húmedas. Revise películas, manos y sólidos en la etiqueta.',
  },
  'line-film-of-nothing': {
    en: '"{{line}}": a film of nothing is none. Read the label again.',
    es: '«{{line}}»: una película de nada no es ninguna. Lea la etiqueta de nuevo.',
  },
  'line-film-too-thick': {
    en: '"{{line}}": A film of {{mm}} mm is no coat. A mil is 1/1000 in, not a millimetre: check the unit.',
    es: '«{{line}}»: Una película de {{mm}} mm no es una mano. Un mil es 1/1000 in, no un milímetro: revise la unidad.',
  },
  'line-film-too-thin': {
    en: '"{{line}}": A film of {{um}} µm is thinner than any membrane. A mil is 25.4 µm: was it meant in mils?',
    es: '«{{line}}»: Una película de {{um}} µm es más fina que cualquier membrana. Un mil son 25.4 µm: ¿se quiso decir en mils?',
  },
  'line-id-taken': {
    en: '"{{line}}" has the id of another product line. Give each its own.',
    es: '«{{line}}» tiene el identificador de otra línea de producto. Dé a cada una el suyo.',
  },
  'line-method-unknown': {
    en: '"{{line}}" names the method "{{method}}", which the book has not. Take it out.',
    es: '«{{line}}» nombra el método «{{method}}», que el libro no tiene. Quítelo.',
  },
  'line-partner-unknown': {
    en: '"{{line}}" goes with "{{partner}}", which the book does not hold. Enter that line first.',
    es: '«{{line}}» va con «{{partner}}», que el libro no contiene. Entre antes esa línea.',
  },
  'line-solids-over-all': {
    en: '"{{line}}": solids over 100 % can’t be. Read the label again.',
    es: '«{{line}}»: sólidos de más de 100 % no puede ser. Lea la etiqueta de nuevo.',
  },
  'line-solids-share': {
    en: '"{{line}}": solids of 1 % or less: a share was typed for a percentage. Type 55 for 0.55.',
    es: '«{{line}}»: sólidos de 1 % o menos: se escribió una fracción por un porcentaje. Escriba 55 por 0.55.',
  },
  'no-position-accepted': {
    en: '"{{question}}" accepts no position. Accept at least one.',
    es: '«{{question}}» no acepta ninguna posición. Acepte al menos una.',
  },
  'position-unknown': {
    en: '"{{question}}" has no position {{position}}. Choose one of {{positions}}.',
    es: '«{{question}}» no tiene la posición {{position}}. Elija una de {{positions}}.',
  },
  'question-unknown': {
    en: 'There is no question {{question}} to choose in. Take the choice out.',
    es: 'No hay ninguna pregunta {{question}} en que elegir. Quite la elección.',
  },
  'rule-book-invalid': {
    en: 'The rule book\'s field "{{name}}" is not valid: {{reason}}. Put it right and read the file again.',
    es: 'El campo «{{name}}» del libro de reglas no vale: {{reason}}. Corríjalo y lea el archivo de nuevo.',
  },
  'stage-twice': {
    en: '"{{method}}" has a stage twice. Give each its own key.',
    es: '«{{method}}» tiene una etapa dos veces. Dé a cada una su propia clave.',
  },
  'zone-twice': {
    en: '"{{check}}" names a zone twice. Name each once.',
    es: '«{{check}}» nombra una zona dos veces. Nombre cada una una vez.',
  },
} as const satisfies Record<string, Sentences>;
