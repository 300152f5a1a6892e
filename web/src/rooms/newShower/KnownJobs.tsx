import { useParts } from '../../tablet/store';

/** The jobs that this tablet knows, for a field whose list is `known-jobs`: one is chosen, or another one typed. */
export function KnownJobs() {
  const { showers, asleep } = useParts('showers', 'asleep');
  const jobs = new Set([
    ...[...showers.values()].flatMap((s) => s.state.created?.body.job ?? []),
    ...asleep.flatMap(({ row }) => row?.job ?? []),
  ]);
  return (
    <datalist id="known-jobs">
      {[...jobs].sort().map((job) => (
        <option key={job} value={job} />
      ))}
    </datalist>
  );
}
