import { useMutation } from '@tanstack/react-query';
import type { FormEvent } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { api, queries, sayError } from '../api.js';
import { Button } from '../parts/button.js';
import { Field } from '../parts/field.js';
import { Notice } from '../parts/notice.js';

export function SignInPage() {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const signIn = useMutation({
    mutationFn: (body: { name: string; password: string }) => api.signIn({ body }),
    onSuccess: () => {
      // Who came for a certain page gets it; who came for the day begins with what is to be looked at.
      if (pathname === '/') void navigate('/morning', { replace: true });
      return queries.invalidateQueries();
    },
  });
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    signIn.mutate({ name: String(form.get('name')), password: String(form.get('password')) });
  };
  return (
    <main className="mx-auto mt-[12vh] w-[min(24rem,calc(100vw-2rem))] border-2 border-ink bg-sheet p-6">
      <h1 className="mb-1 text-2xl">Yard Badge</h1>
      <p className="mb-5 text-sm text-faint">Sign in to see where every client stands at every engine.</p>
      <form onSubmit={submit}>
        <Field label="Name" name="name" autoComplete="username" required autoFocus />
        <Field label="Password" name="password" type="password" autoComplete="current-password" required />
        <Button look="main" type="submit" disabled={signIn.isPending} className="mt-1 w-full">
          {signIn.isPending ? 'Signing in …' : 'Sign in'}
        </Button>
      </form>
      <div className="mt-4 min-h-11">
        {signIn.error && <Notice kind="stops">{sayError(signIn.error)}</Notice>}
      </div>
    </main>
  );
}
