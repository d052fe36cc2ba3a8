import { useCallback, useEffect, useState } from 'react';
import type { Callout, Client } from '../api';

const refreshEvery = 5000;

/** The waiting call-outs, kept fresh, and a way to close one. */
export function useCallouts(client: Client) {
  const [callouts, setCallouts] = useState<Callout[]>([]);
  const [failure, setFailure] = useState('');

  const refresh = useCallback(async () => {
    try {
      setCallouts(await client.waiting());
      setFailure('');
    } catch (error) {
      setFailure(String(error));
    }
  }, [client]);

  useEffect(() => {
    void refresh();
    const timer = setInterval(refresh, refreshEvery);
    return () => clearInterval(timer);
  }, [refresh]);

  const close = async (callout: Callout) => {
    await client.close(callout);
    await refresh();
  };

  return { callouts, failure, close };
}
