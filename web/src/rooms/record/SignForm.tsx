import { PushAnswer } from '@careful-seam/contract/api/messages';
import { BODIES } from '@careful-seam/core/log/bodies';
import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import { useTranslation } from 'react-i18next';
import { z } from 'zod';
import { call } from '../../tablet/api';
import { acknowledge, append, takeBack } from '../../tablet/outbox';
import { type LocalShower, newId, useParts, useStore } from '../../tablet/store';
import { TextField } from '../../ui/fields';
import { Problem } from '../../ui/Loaded';
import { errorWords } from '../../ui/words';

/** The name that signs, as the entry keeps it, and the password once more. */
const Fields = z.object({ name: BODIES['record-signed'].shape.name, password: z.string().min(1) });
/** What is typed. */
type Fields = z.infer<typeof Fields>;

/** The signature under a record: with the password once more, over the ledger's head as it was read. */
export function SignForm({ shower }: { shower: LocalShower }) {
  const { t } = useTranslation();
  const { db, person, sync, refresh } = useParts('db', 'person', 'sync', 'refresh');
  const { register, handleSubmit, setError, resetField, formState } = useForm<Fields>({
    resolver: zodResolver(Fields),
    mode: 'onChange',
    defaultValues: { name: person?.name ?? '', password: '' },
  });
  const waits = shower.entries.filter((e) => e.ledgerSeq === null).length;

  const sign = handleSubmit(async ({ name, password }) => {
    if (!db || !person) return;
    try {
      await sync();
      const head = useStore.getState().showers.get(shower.id)?.stored.headHash ?? '';
      const ports = { newId, nowMs: () => Date.now(), offsetMinutes: () => -new Date().getTimezoneOffset() };
      const body = { name, ledgerHash: head, statement: t('sign.statement') };
      const [stored] = await append(db, ports, [
        {
          showerId: shower.id,
          kind: 'record-signed',
          body,
          person,
          geometryVersion: shower.state.geometry?.version ?? 0,
        },
      ]);
      try {
        const answer = await call(PushAnswer, 'POST', `/api/showers/${shower.id}/sign`, {
          password,
          clock: new Date().toISOString(),
          entry: stored!.text,
        });
        await acknowledge(db, shower.id, answer, [stored!]);
      } catch (error) {
        // A signature that the server did not take was never given: it leaves the tablet's chain again.
        await takeBack(db, stored!);
        throw error;
      }
      resetField('password');
      await sync();
    } catch (error) {
      setError('root', { message: errorWords(error) });
    } finally {
      await refresh(shower.id);
    }
  });
  const { isSubmitting, isValid, errors } = formState;
  return (
    <form className="flex flex-col gap-2 border-edge border-t-2 pt-2" onSubmit={(e) => void sign(e)}>
      <p className="text-sm">{t('sign.statement')}</p>
      <TextField label={t('sign.name')} autoComplete="name" {...register('name')} />
      <TextField label={t('sign.password')} type="password" autoComplete="current-password" {...register('password')} />
      {waits > 0 && <p className="text-cure text-sm">{t('sign.waits', { count: waits })}</p>}
      <Problem text={errors.root?.message ?? null} />
      <button type="submit" className="key key-main text-lg" disabled={isSubmitting || !isValid}>
        {t(isSubmitting ? 'sign.busy' : 'sign.go')}
      </button>
    </form>
  );
}
