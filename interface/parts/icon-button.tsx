/** A quiet button with a sign and no words. */
import clsx from 'clsx';
import { Button, type ButtonProps } from './button';

/** `label` is what it is called; it is its title too, unless that says more. */
export const IconButton = ({ label, title = label, className, ...rest }: Omit<ButtonProps, 'look'> & { label: string }) => (
  <Button look="quiet" className={clsx('px-1!', className)} aria-label={label} title={title} {...rest} />
);
