import { useQuery } from '@tanstack/react-query';

/** Whether this installation is still to be set up, as the server says. Nobody waits for it: the sign-in stands before. */
export function useSetUpState() {
  return useQuery({
    queryKey: ['set-up'],
    queryFn: async () => {
      const [{ call }, { SetUpState }] = await Promise.all([
        import('../../tablet/api'),
        import('@careful-seam/contract/api/setUp'),
      ]);
      return call(SetUpState, 'GET', '/api/set-up');
    },
    retry: false,
    staleTime: 0,
  });
}
