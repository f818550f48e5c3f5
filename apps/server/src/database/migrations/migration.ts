import type { Sequelize, Transaction } from 'sequelize';

/** A step of the schema, run once and in order, in one transaction. */
export type Migration = {
  readonly name: string;
  readonly statements: readonly string[];
  /** what SQL alone cannot do, between the statements and `finally` */
  readonly fill?: (sequelize: Sequelize, transaction: Transaction) => Promise<void>;
  readonly finally?: readonly string[];
};
