'use client';
/** Keeps what the workers computed, by what it was computed from: nothing is worked out twice, nothing old is shown. */
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';

/** A result holds for its key for ever: the key names everything it was made from. */
const made = () =>
  new QueryClient({
    defaultOptions: {
      queries: {
        staleTime: Number.POSITIVE_INFINITY,
        gcTime: 10 * 60_000,
        retry: false,
        networkMode: 'always',
        refetchOnWindowFocus: false,
      },
    },
  });

export function QueryProvider({ children }: { children: ReactNode }) {
  const [client] = useState(made);
  return <QueryClientProvider client={client}>{children}</QueryClientProvider>;
}
