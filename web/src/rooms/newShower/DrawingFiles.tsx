import type { ShowerModel } from '@careful-seam/core/shower/geometry/showerModel';
import { elementName } from '@careful-seam/words/texts/names';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { geometryJson, mapDxf, mapSvg, readGeometryJson } from '../../drawing/drawingFiles';
import { FileKey } from '../../ui/FileKey';
import { Sheet } from '../../ui/Sheet';
import { saveFile } from '../../ui/saveFile';
import { problemWords } from '../../ui/words';

/** What is drawn, for files in and out. */
interface Props {
  /** What is drawn; null while it can not be. */
  model: ShowerModel | null;
  /** The name that a file gets. */
  name: string;
  /** Told of a drawing that was read from a file. */
  onRead: (model: ShowerModel) => void;
}

/** The drawing as files: dimensions as JSON out and in, the shower laid open as SVG and DXF. */
export function DrawingFiles({ model, name, onRead }: Props) {
  const { t } = useTranslation();
  const [open, setOpen] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const file = name.trim().replace(/[^\p{L}\p{N}]+/gu, '-') || 'shower';
  const nameOf = (panel: string) => {
    const face = model?.faces.find((f) => f.id === panel || f.id.startsWith(`${panel}:`));
    return face ? elementName(t, model!, face.id) : panel.split(':')[0]!;
  };
  const read = async (chosen: File) => {
    const answer = readGeometryJson(await chosen.text());
    if (!answer.ok) return setProblem(problemWords(answer.problem));
    setProblem(null);
    setOpen(false);
    onRead(answer.value);
  };
  return (
    <>
      <button type="button" className="key" onClick={() => setOpen(true)}>
        {t('drawing.files')}
      </button>
      {open && (
        <Sheet title={t('drawing.files')} onClose={() => setOpen(false)}>
          {model ? (
            <>
              <button
                type="button"
                className="key"
                onClick={() => saveFile(geometryJson(model.geometry), 'application/json', `${file}.json`)}
              >
                {t('drawing.json')}
              </button>
              <button
                type="button"
                className="key"
                onClick={() => saveFile(mapSvg(model, name, nameOf), 'image/svg+xml', `${file}.svg`)}
              >
                {t('drawing.svg')}
              </button>
              <button
                type="button"
                className="key"
                onClick={() =>
                  void mapDxf(model, nameOf).then((dxf) => saveFile(dxf, 'application/dxf', `${file}.dxf`))
                }
              >
                {t('drawing.dxf')}
              </button>
            </>
          ) : (
            <p className="text-soft">{t('new.noDrawing')}</p>
          )}
          <FileKey label={t('drawing.read')} accept="application/json,.json" onFile={(chosen) => void read(chosen)} />
          {problem && (
            <p role="alert" className="text-hold">
              {problem}
            </p>
          )}
        </Sheet>
      )}
    </>
  );
}
