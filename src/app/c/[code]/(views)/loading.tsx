import { Loading } from '@/ui/parts/Loading';

/**
 * Shown while a view is being made. Only for views that are always there: once this is sent, so is the status of the
 * answer, and what does not exist could not say so.
 */
export default Loading;
