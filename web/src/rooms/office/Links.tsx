import { type LinkLine, LinkList, MadeLink } from '@careful-seam/contract/api/office';
import { momentWords } from '@careful-seam/words/sentences/sentences';
import { useState } from 'react';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { useNamedShowers, useStore } from '../../tablet/store';
import { useChange, useList } from '../../tablet/useList';
import { Choice } from '../../ui/Choice';
import { Loaded, Problem } from '../../ui/Loaded';
import { LinkTold } from './LinkTold';

const LINKS = '/api/links';
const CREW_HOURS = [24, 72, 168] as const;
const RECORD_DAYS = 90;

function MakeLink({ onMade }: { onMade: (link: MadeLink) => void }) {
  const { t } = useTranslation();
  const crews = useStore((s) => s.crews);
  const known = useNamedShowers();
  const { change, problem, busy } = useChange([LINKS]);
  const [kind, setKind] = useState<'crew' | 'record'>('crew');
  const [crewId, setCrew] = useState(crews[0]?.id ?? '');
  const [showerId, setShower] = useState('');
  const [hours, setHours] = useState<number>(CREW_HOURS[0]);
  const [label, setLabel] = useState('');
  const [email, setEmail] = useState('');
  const make = async () => {
    const shared = { label: label.trim(), email: email.trim() || null };
    const wanted =
      kind === 'crew' ? { kind, crewId, hours, ...shared } : { kind, showerId, days: RECORD_DAYS, ...shared };
    const made = await change(MadeLink, 'POST', LINKS, wanted);
    if (made) onMade(made);
  };
  return (
    <section className="flex max-w-2xl flex-col gap-2">
      <Choice
        label={t('links.for')}
        value={kind}
        onChoose={setKind}
        options={[
          { key: 'crew', label: t('links.forCrew') },
          { key: 'record', label: t('links.forRecord') },
        ]}
      />
      {kind === 'crew' ? (
        <>
          <label className="flex flex-col gap-1">
            {t('life.crew')}
            <select className="field" value={crewId} onChange={(e) => setCrew(e.target.value)}>
              {crews.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}
                </option>
              ))}
            </select>
          </label>
          <Choice
            label={t('links.lives')}
            value={hours}
            onChoose={setHours}
            options={CREW_HOURS.map((key) => ({ key, label: t('links.days', { count: key / 24 }) }))}
          />
        </>
      ) : (
        <label className="flex flex-col gap-1">
          {t('links.shower')}
          <select className="field" value={showerId} onChange={(e) => setShower(e.target.value)}>
            <option value="">{t('links.choose')}</option>
            {known.map((s) => (
              <option key={s.id} value={s.id}>
                {s.job}: {s.name}
              </option>
            ))}
          </select>
        </label>
      )}
      <label className="flex flex-col gap-1">
        {t('links.label')}
        <input className="field" value={label} onChange={(e) => setLabel(e.target.value)} />
      </label>
      <label className="flex flex-col gap-1">
        {t('links.email')}
        <input className="field" type="email" value={email} onChange={(e) => setEmail(e.target.value)} />
      </label>
      <Problem text={problem} />
      <button
        type="button"
        className="key key-main self-start"
        disabled={busy || label.trim() === '' || (kind === 'record' && showerId === '')}
        onClick={() => void make()}
      >
        {t('links.make')}
      </button>
    </section>
  );
}

function Line({ link }: { link: LinkLine }) {
  const { t } = useTranslation();
  const { change, problem } = useChange([LINKS]);
  const ended = link.revokedAt !== null || Date.parse(link.expiresAt) < Date.now();
  return (
    <li className="flex items-center gap-2 border-hair border-b py-1.5">
      <p className={`min-w-0 flex-1 leading-snug ${ended ? 'text-soft' : ''}`}>
        <span className="font-bold">{link.label}</span> · {t(`linkKind.${link.kind}`)} · {link.about}
        <span className="block text-soft text-sm">
          {t(link.revokedAt ? 'links.revokedAt' : ended ? 'links.expiredAt' : 'links.until', {
            at: momentWords(Date.parse(link.revokedAt ?? link.expiresAt)),
          })}{' '}
          {t('links.used', { count: link.uses })} {t('links.madeBy', { by: link.madeBy })}
        </span>
        <Problem text={problem} />
      </p>
      {!ended && (
        <button
          type="button"
          className="key"
          onClick={() => void change(z.object({}), 'DELETE', `${LINKS}/${link.id}`)}
        >
          {t('links.revoke')}
        </button>
      )}
    </li>
  );
}

/** Links: a crew's own holds on a phone without a sign-in, a record for its owner. Made, seen, ended. */
export function Links() {
  const { t } = useTranslation();
  const answer = useList(LinkList, LINKS);
  const [link, setLink] = useState<MadeLink | null>(null);
  return (
    <div className="h-full overflow-y-auto">
      {link ? <LinkTold link={link} onClose={() => setLink(null)} /> : <MakeLink onMade={setLink} />}
      <h2 className="pt-4 font-bold text-lg">{t('links.made')}</h2>
      <Loaded answer={answer} empty={t('links.none')} isEmpty={(d) => d.links.length === 0}>
        {({ links }) => (
          <ul>
            {links.map((l) => (
              <Line key={l.id} link={l} />
            ))}
          </ul>
        )}
      </Loaded>
    </div>
  );
}
