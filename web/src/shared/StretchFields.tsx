import { useTranslation } from 'react-i18next';
import { LengthField } from '../ui/LengthField';
import { usePreferences } from '../ui/preferences';

/** A stretch of a seam. */
interface TypedStretch {
  /** Where it begins, mm along the seam from its start. */
  fromMm: number;
  /** Where it ends, mm along the seam from its start. */
  toMm: number;
}

/** A stretch of a seam that is typed. */
interface Props {
  /** The stretch as it is typed. */
  stretch: TypedStretch;
  /** Length of the whole seam, mm. */
  lengthMm: number;
  /** Told of another one. */
  onStretch: (stretch: TypedStretch) => void;
}

/** Both ends of a stretch of a seam, each with its steppers. */
export function StretchFields({ stretch, lengthMm, onStretch }: Props) {
  const { t } = useTranslation();
  const { unit } = usePreferences();
  return (
    <div className="grid grid-cols-2 gap-2">
      <LengthField
        label={t('look.from')}
        unit={unit}
        mm={stretch.fromMm}
        most={lengthMm}
        onMm={(fromMm) => onStretch({ ...stretch, fromMm })}
      />
      <LengthField
        label={t('look.to')}
        unit={unit}
        mm={stretch.toMm}
        most={lengthMm}
        onMm={(toMm) => onStretch({ ...stretch, toMm })}
      />
    </div>
  );
}
