import * as yup from 'yup';

/** Fields of the records as they are kept in the database, for checking them when they are read back. */
export const textField = () => yup.string().required();
export const maybeText = () => yup.string().nullable().defined();
export const maybeNumber = () => yup.number().nullable().defined();
export const textFields = () => yup.array(textField()).required();
