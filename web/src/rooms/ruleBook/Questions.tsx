import { questionOf } from '@careful-seam/core/rules/checks/check';
import { standingPosition } from '@careful-seam/core/rules/positions';
import type { RuleBook } from '@careful-seam/core/rules/ruleBook';
import { useTranslation } from 'react-i18next';

/** A stage of the draft. */
interface Props {
  /** The rule book that is being changed; nobody sees it until it is published. */
  draft: RuleBook;
  /** A text of the draft in the language that is spoken. */
  say: (text: string) => string;
  /** Key of the method. */
  method: string;
  /** Key of the stage that is looked at. */
  stage: string;
  /** Told of the draft as it is now. */
  onChange: (draft: RuleBook) => void;
}

/** The questions of a stage on which the trade disagrees, with the firm's own choice. */
export function Questions({ draft, say, method, stage, onChange }: Props) {
  const { t } = useTranslation();
  const asked = draft.methods
    .find((m) => m.key === method)!
    .stages.find((s) => s.key === stage)!
    .checks.flatMap((c) => questionOf(c) ?? []);
  const questions = draft.disagreements.filter((d) => asked.includes(d.id));
  if (questions.length === 0) return null;
  const choose = (id: string, key: string) => {
    const { [id]: _was, ...others } = draft.choices;
    onChange({ ...draft, choices: key === '' ? others : { ...others, [id]: key } });
  };
  return (
    <section>
      <h3 className="mt-2 font-bold">{t('rules.questions')}</h3>
      <ul>
        {questions.map((d) => (
          <li
            key={d.id}
            className="grid grid-cols-[1fr_1.2fr] items-start gap-2 border-hair border-b py-1.5 max-md:grid-cols-1"
          >
            <p className="leading-tight">
              <span className="font-semibold">{say(d.question)}</span> <span className="text-soft text-sm">{d.id}</span>
              <span className="block text-soft text-sm">
                {t(`rules.kind.${d.kind}`)}. {say(d.note)}
              </span>
            </p>
            <select
              className="field px-1 text-base"
              aria-label={say(d.question)}
              value={draft.choices[d.id] ?? ''}
              onChange={(e) => choose(d.id, e.target.value)}
            >
              <option value="">
                {t('rules.asMethod', {
                  position: say(
                    d.positions.find((p) => p.key === standingPosition({ ...draft, choices: {} }, d, { method }))
                      ?.text ?? '',
                  ),
                })}
              </option>
              {d.positions
                .filter((p) => p.effect === 'accept' || p.effect === 'note')
                .map((p) => (
                  <option key={p.key} value={p.key}>
                    {p.key}) {say(p.text)}
                  </option>
                ))}
            </select>
          </li>
        ))}
      </ul>
    </section>
  );
}
