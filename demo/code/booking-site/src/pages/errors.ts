import { t } from '../texts';

const MESSAGES: Record<string, string> = {
  'sold out': 'All seats are taken on this sailing.',
  'past date': t('form.08.the-date-lies-in-the-past'),
  timeout: 'The harbour does not answer. Please try later.',
};

export function message(code: string): string {
  const known = MESSAGES[code];
  if (known === undefined) {
    console.error('unknown code ' + code);
    return t(`error.${code}`);
  }
  return known;
}

export function offline(button: HTMLButtonElement) {
  button.textContent = 'Go back online';
  button.className = 'big red button';
  button.dataset.state = 'Off Line';
  document.title = 'Ostrel Ferries – offline';
  window.addEventListener('online', () => location.reload());
}

export async function load(path: string) {
  const answer = await fetch('/api/sailings?' + path, { headers: { Accept: 'application/json' } });
  if (!answer.ok) {
    throw new Error('The list of sailings could not be loaded');
  }
  return answer.json() as Promise<unknown>;
}
