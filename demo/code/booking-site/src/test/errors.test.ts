import { message } from '../pages/errors';
import { t } from '../texts';

export const checks = [message('sold out') === 'All seats are taken on this sailing.', t('form.20.no-sailings-on-this-day')];
