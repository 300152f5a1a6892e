import type { Sentences } from './sentences';

/** What a sum can’t be worked out from. */
export const SUM_ERRORS = {
  'air-reading-back': {
    en: 'Reading {{reading}} is earlier than the one before. Check the clock.',
    es: 'La lectura {{reading}} es anterior a la de antes. Revise el reloj.',
  },
  'air-too-dry': {
    en: 'Air this dry has no dew point. Give the relative humidity as a share, 0.5 for 50 %.',
    es: 'Un aire tan seco no tiene punto de rocío. Dé la humedad relativa como fracción, 0.5 por 50 %.',
  },
  'band-misses-plane': {
    en: 'The band would not reach over the change of plane.',
    es: 'La banda no pasaría del cambio de plano.',
  },
  'band-misses-side': {
    en: 'So far off centre the band misses one side. Check the figure.',
    es: 'Tan fuera del centro la banda no alcanza un lado. Revise la cifra.',
  },
  'bed-not-positive': {
    en: 'Volume, density and bag must be above zero. Check them.',
    es: 'El volumen, la densidad y el saco deben ser mayores que cero. Revíselos.',
  },
  'board-size-missing': {
    en: 'A board layout needs the size of the wall and of the sheet.',
    es: 'El reparto de paneles necesita la medida de la pared y la de la plancha.',
  },
  'calculation-unknown': {
    en: 'There is no calculation "{{name}}". Ask for the list.',
    es: 'No hay ningún cálculo «{{name}}». Pida la lista.',
  },
  'crease-over-band': {
    en: 'The crease can’t take more than the whole band. Check both figures.',
    es: 'El doblez no puede tomar más que toda la banda. Revise las dos cifras.',
  },
  'curb-not-measured': {
    en: 'Measure the distance between the walls at one place at least, over 2 in.',
    es: 'Mida la distancia entre las paredes al menos en un lugar, más de 2 in.',
  },
  'drain-outside-opening': {
    en: 'The drain lies outside the opening. Measure it from the left and the front.',
    es: 'El desagüe está fuera del hueco. Mídalo desde la izquierda y el frente.',
  },
  'drain-outside-tray': {
    en: 'The tray’s drain lies outside the tray. Measure it from its left and front.',
    es: 'El desagüe del plato está fuera del plato. Mídalo desde su izquierda y su frente.',
  },
  'drain-over-edge': {
    en: 'The drain stands higher than the whole edge of the floor. Rod readings grow downwards: say so, or check the drain’s figure.',
    es: 'El desagüe está más alto que todo el borde del piso. Las lecturas de mira crecen hacia abajo: dígalo, o revise la cifra del desagüe.',
  },
  'fall-range-reversed': {
    en: 'The least fall is larger than the greatest. Swap them.',
    es: 'La caída menor es más grande que la mayor. Cámbielas.',
  },
  'film-over-gauge': {
    en: 'The film is above the gauge: its last tooth is wet, so nothing says how much thicker it is. Take a larger gauge.',
    es: 'La película pasa del calibre: su último diente está mojado, así que nada dice cuánto más gruesa es. Tome un calibre más grande.',
  },
  'film-range-reversed': {
    en: 'The greatest film lies under the least. Change one of the two.',
    es: 'La película mayor queda por debajo de la menor. Cambie una de las dos.',
  },
  'film-too-thick': {
    en: 'A film of {{mm}} mm is no coat. A mil is 1/1000 in, not a millimetre: check the unit.',
    es: 'Una película de {{mm}} mm no es una mano. Un mil es 1/1000 in, no un milímetro: revise la unidad.',
  },
  'film-too-thin': {
    en: 'A film of {{um}} µm is thinner than any membrane. A mil is 25.4 µm: was it meant in mils?',
    es: 'Una película de {{um}} µm es más fina que cualquier membrana. Un mil son 25.4 µm: ¿se quiso decir en mils?',
  },
  'first-row-over-wall': {
    en: 'The first row lies above the wall. Check height and first row.',
    es: 'La primera fila queda por encima de la pared. Revise la altura y la primera fila.',
  },
  'floor-not-given': {
    en: 'Give the rise of a level perimeter, or at least three shots of the floor.',
    es: 'Dé la subida de un perímetro a nivel, o al menos tres puntos del piso.',
  },
  'gap-range-reversed': {
    en: 'The least gap is larger than the greatest. Swap them.',
    es: 'El hueco menor es más grande que el mayor. Cámbielos.',
  },
  'grid-uneven': {
    en: 'The rows of the grid are not equally long. Fill what is outside with null.',
    es: 'Las filas de la cuadrícula no son igual de largas. Rellene con null lo que está fuera.',
  },
  'humidity-impossible': {
    en: "A humidity of {{percent}} % can't be. Check the column, or whether it is a share or percent.",
    es: 'Una humedad de {{percent}} % no puede ser. Revise la columna, o si es una fracción o un porcentaje.',
  },
  'input-invalid': {
    en: 'The field "{{name}}" is not valid: {{reason}}.',
    es: 'El campo «{{name}}» no vale: {{reason}}.',
  },
  'input-not-json': {
    en: 'Standard input is not JSON. Send one JSON object.',
    es: 'La entrada estándar no es JSON. Envíe un objeto JSON.',
  },
  'joint-negative': {
    en: 'A joint can’t be narrower than nothing. Check its width.',
    es: 'Una junta no puede ser más angosta que nada. Revise su ancho.',
  },
  'leak-readings-too-few': {
    en: "A leak's height needs {{least}} readings at least.",
    es: 'La altura de una fuga necesita al menos {{least}} lecturas.',
  },
  'length-empty': {
    en: 'This length is empty. Write it like 2 1/4, 3\' 4 1/2", 57 mm or 5.7 cm.',
    es: 'Esta longitud está vacía. Escríbala como 2 1/4, 3\' 4 1/2", 57 mm o 5.7 cm.',
  },
  'length-negative': {
    en: '"{{text}}" is negative; a length can\'t be. Leave the minus out.',
    es: '«{{text}}» es negativa; una longitud no puede serlo. Quite el menos.',
  },
  'length-too-long': {
    en: '"{{text}}" is over 100 m. Check the figure and its unit.',
    es: '«{{text}}» pasa de 100 m. Revise la cifra y su unidad.',
  },
  'length-unreadable': {
    en: '"{{text}}" can\'t be read as a length. Write it like 2 1/4, 3\' 4 1/2", 57 mm or 5.7 cm.',
    es: '«{{text}}» no se puede leer como longitud. Escríbala como 2 1/4, 3\' 4 1/2", 57 mm o 5.7 cm.',
  },
  'level-hardly-fell': {
    en: 'The level hardly fell: no height of a leak can be told from it.',
    es: 'El nivel apenas bajó: de él no se puede sacar la altura de una fuga.',
  },
  'loss-does-not-slow': {
    en: 'The loss does not slow: the leak lies below the lowest level. Wait longer.',
    es: 'La pérdida no se hace más lenta: la fuga queda por debajo del nivel más bajo. Espere más.',
  },
  'loss-over-band': {
    en: 'The loss takes the whole band. Check its width and the loss.',
    es: 'La pérdida toma toda la banda. Revise su ancho y la pérdida.',
  },
  'niche-tile-not-positive': {
    en: 'Tile and niche need a size above zero. Check them.',
    es: 'La loseta y el nicho necesitan una medida mayor que cero. Revíselas.',
  },
  'no-layers': {
    en: 'A bench has at least one layer of board. Count its layers.',
    es: 'Un banco tiene al menos una capa de panel. Cuente sus capas.',
  },
  'no-outlet': {
    en: 'Water has no way out. Give one outlet at least.',
    es: 'El agua no tiene por dónde salir. Dé al menos una salida.',
  },
  'no-room-for-board': {
    en: 'The boards beside it leave no room for this one. Check the sizes.',
    es: 'Los paneles de al lado no dejan lugar para este. Revise las medidas.',
  },
  'offset-too-long': {
    en: 'The offset must be less than the length of a sheet.',
    es: 'El desfase debe ser menor que la longitud de una plancha.',
  },
  'outlet-outside': {
    en: 'Outlet {{outlet}} lies outside the grid. Give a row and column of it.',
    es: 'La salida {{outlet}} está fuera de la cuadrícula. Dé una fila y una columna de ella.',
  },
  'pan-not-read-meanwhile': {
    en: 'The control pan has no two readings in the time of the test. Read it at the same times.',
    es: 'La bandeja de control no tiene dos lecturas en el tiempo de la prueba. Léala a las mismas horas.',
  },
  'pan-readings-too-few': {
    en: 'The control pan needs two readings at least: at the start and at the end.',
    es: 'La bandeja de control necesita al menos dos lecturas: al comienzo y al final.',
  },
  'part-without-outlet': {
    en: 'Row {{row}}, column {{column}} is joined to no outlet. Give that part one too.',
    es: 'La fila {{row}}, columna {{column}} no está unida a ninguna salida. Dé una también a esa parte.',
  },
  'ponding-without-floor': {
    en: 'Give a grid with its outlets, or shots with their floor and its drain.',
    es: 'Dé una cuadrícula con sus salidas, o puntos con su piso y su desagüe.',
  },
  'profile-heights-missing': {
    en: 'There must be one height for each place. Check both lists.',
    es: 'Debe haber una altura para cada lugar. Revise las dos listas.',
  },
  'profile-not-growing': {
    en: 'The places of a profile must grow. Sort them, and take out what stands twice.',
    es: 'Los lugares de un perfil deben crecer. Ordénelos y quite lo que esté dos veces.',
  },
  'profile-too-short': {
    en: 'The profile is shorter than the straightedge. Measure over its whole length, or use a shorter one.',
    es: 'El perfil es más corto que la regla. Mida en toda su longitud, o use una más corta.',
  },
  'reading-back': {
    en: 'Reading {{reading}} is earlier than the one before it. Put them in order of time.',
    es: 'La lectura {{reading}} es anterior a la de antes. Póngalas en orden de tiempo.',
  },
  'reading-before-start': {
    en: 'Reading {{reading}} lies before the start of the test. Correct its time.',
    es: 'La lectura {{reading}} es anterior al comienzo de la prueba. Corrija su hora.',
  },
  'reading-past-seam': {
    en: 'This reading lies beyond the end of the seam. Check its place.',
    es: 'Esta lectura queda más allá del extremo de la junta. Revise su lugar.',
  },
  'readings-at-one-time': {
    en: 'Readings {{first}} and {{second}} have the same time. Keep one of them.',
    es: 'Las lecturas {{first}} y {{second}} tienen la misma hora. Conserve una de ellas.',
  },
  'roll-too-short': {
    en: 'A piece of {{piece}} mm is longer than the roll, and a roll of {{roll}} mm is no longer than its lap of {{lap}} mm: give a longer roll.',
    es: 'Una pieza de {{piece}} mm es más larga que el rollo, y un rollo de {{roll}} mm no es más largo que su traslape de {{lap}} mm: dé un rollo más largo.',
  },
  'shot-incomplete': {
    en: 'Shot {{shot}} has no place or no height. Type all three figures.',
    es: 'El punto {{shot}} no tiene lugar o no tiene altura. Escriba las tres cifras.',
  },
  'shot-outside': {
    en: 'Shot {{shot}} ({{place}}) lies outside the floor. Move it or take it out.',
    es: 'El punto {{shot}} ({{place}}) está fuera del piso. Muévalo o quítelo.',
  },
  'shots-at-one-place': {
    en: 'Shots {{first}} and {{second}} stand at the same place ({{place}}) at different heights. Take one of them out.',
    es: 'Los puntos {{first}} y {{second}} están en el mismo lugar ({{place}}) a distinta altura. Quite uno de los dos.',
  },
  'shots-on-a-line': {
    en: 'All shots stand on one line, so that the floor beside it is unknown. Take some beside it.',
    es: 'Todos los puntos están en una línea, así que no se sabe cómo es el piso a su lado. Tome algunos al lado.',
  },
  'shots-too-few': {
    en: 'A floor needs three shots beside its drain at least. Take more.',
    es: 'Un piso necesita al menos tres puntos además del desagüe. Tome más.',
  },
  'span-not-positive': {
    en: 'The span must be above zero. Measure between the supports.',
    es: 'El vano debe ser mayor que cero. Mida entre los apoyos.',
  },
  'stud-outside': {
    en: 'This stud lies beside the wall. Check its place.',
    es: 'Este montante queda al lado de la pared. Revise su lugar.',
  },
  'temperature-impossible': {
    en: 'The temperature must lie between -40 and 90 °C. Check the unit.',
    es: 'La temperatura debe estar entre -40 y 90 °C. Revise la unidad.',
  },
  'temperature-in-fahrenheit': {
    en: '{{read}} °C on site? If it was read in °F it is {{celsius}} °C: enter it so.',
    es: '¿{{read}} °C en la obra? Si se leyó en °F son {{celsius}} °C: éntrelo así.',
  },
  'temperature-off-site': {
    en: '{{read}} °C on site? Check the figure and its unit.',
    es: '¿{{read}} °C en la obra? Revise la cifra y su unidad.',
  },
  'tile-not-positive': {
    en: 'Tile and frame need a thickness above zero. Measure them.',
    es: 'La loseta y el marco necesitan un grosor mayor que cero. Mídalos.',
  },
  'too-many-cuts': {
    en: 'These lengths come to {{cuts}} cuts: check the length of the roll.',
    es: 'Estas longitudes llegan a {{cuts}} cortes: revise la longitud del rollo.',
  },
  'turn-up-too-high': {
    en: 'A turn-up of more than 6 ft is a wall membrane. Check the figure.',
    es: 'Una vuelta de más de 6 ft es una membrana de pared. Revise la cifra.',
  },
  'valve-outside': {
    en: 'The valve lies beside this board. Measure it from the same corner.',
    es: 'La válvula queda al lado de este panel. Mídala desde la misma esquina.',
  },
  'found-before-made': {
    en: 'Something made at "{{made}}" can not have been found at "{{found}}", which comes before it. Check the two stages.',
    es: 'Algo hecho en «{{made}}» no puede haberse encontrado en «{{found}}», que viene antes. Revise las dos etapas.',
  },
  'more-than-all': {
    en: '{{count}} of {{of}} is more than all. Check the two counts.',
    es: '{{count}} de {{of}} es más que todo. Revise los dos recuentos.',
  },
  // A rate needs something that it is counted against.
  'no-exposure': {
    en: 'There is nothing that this is counted against. Give how much was made.',
    es: 'No hay nada contra qué contarlo. Indique cuánto se hizo.',
  },
  'parts-do-not-add-up': {
    en: 'The showers of this group do not add up to it. Check its count and its exposure.',
    es: 'Las duchas de este grupo no suman lo que él dice. Revise su recuento y su exposición.',
  },
  'readings-fewer-than-cells': {
    en: 'There are {{least}} places to look at: give one reading at least to each.',
    es: 'Hay {{least}} lugares que revisar: dé al menos una lectura a cada uno.',
  },
  'stage-not-listed': {
    en: '"{{stage}}" is not among the stages. Add it, or check its name.',
    es: '«{{stage}}» no está entre las etapas. Añádala, o revise su nombre.',
  },
  'table-empty': {
    en: 'Nobody has answered anything yet. Count some answers first.',
    es: 'Nadie ha respondido nada todavía. Cuente primero algunas respuestas.',
  },
  'table-not-square': {
    en: 'This row has another number of answers than there are rows ({{rows}}). Give both inspectors the same answers.',
    es: 'Esta fila tiene otro número de respuestas que filas hay ({{rows}}). Dé a los dos inspectores las mismas respuestas.',
  },
} as const satisfies Record<string, Sentences>;
