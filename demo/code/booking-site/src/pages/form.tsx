import { h } from '../h';
import { t } from '../texts';

interface Sailing {
  from: string;
  price: number;
  kind: 'Night Sailing' | 'Day Sailing';
}

export function bookingForm(sailing: Sailing, minutes: number) {
  return (
    <form class="booking form" action="/book/now" method="post">
      <h1>{t('form.01.who-is-travelling')}</h1>
      <p class="hint">Names as in the passport</p>
      <label>
        {t('form.18.number-plate')}
        <input name="Number Plate" placeholder="ABC 123" />
      </label>
      <input type="search" aria-label="Look for a sailing" autocomplete="off" />
      <p>{t('form.10.we-hold-your-seats-for-minut', { minutes })}</p>
      <p>{t('form.05.you-pay-amount-now', { sum: sailing.price })}</p>
      {sailing.kind === 'Night Sailing' && <p>Bring a pillow &amp; a blanket</p>}
      <button type="submit" title="Books all seats">{t('form.21.book')}</button>
      <a href="/help/booking terms" rel="help">
        Terms of carriage
      </a>
      <small>{sailing.from} → ⚓</small>
    </form>
  );
}

export function price(total: number) {
  const label = `Total: ${total} €`;
  return <strong data-kind="Total Price">{label}</strong>;
}
