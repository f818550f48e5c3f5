import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type NonAttribute,
  type Sequelize,
} from 'sequelize';

/** The small tables as Sequelize models; entries, lines and balances are written in chunks by SQL. */
export class CompanyRow extends Model<InferAttributes<CompanyRow>, InferCreationAttributes<CompanyRow>> {
  declare id: CreationOptional<number>;
  declare name: string;
  declare currency: string;
  declare startMonth: number;
  declare hasAdjustmentPeriod: boolean;
  /** goes up with each posting, so that every process knows when its cube is old */
  declare version: CreationOptional<number>;
  declare createdAt: string;
  /** made with the demo companies, and removed with them */
  declare isDemo: CreationOptional<boolean>;
  /** the last actual month that a person chose, and the one proposed then, as periods; null while nobody did */
  declare lastActual: CreationOptional<number | null>;
  declare lastActualInsteadOf: CreationOptional<number | null>;
}
export class FiscalYearRow extends Model<InferAttributes<FiscalYearRow>, InferCreationAttributes<FiscalYearRow>> {
  declare companyId: number;
  declare year: number;
}
export class AccountRow extends Model<InferAttributes<AccountRow>, InferCreationAttributes<AccountRow>> {
  declare id: CreationOptional<number>;
  declare companyId: number;
  declare position: number;
  declare number: string;
  declare name: string;
  declare class: string;
  declare groupName: string | null;
  declare active: boolean;
  declare polarity: string | null;
  declare cashflow: string | null;
}
export class ImportRow extends Model<InferAttributes<ImportRow>, InferCreationAttributes<ImportRow>> {
  declare id: CreationOptional<number>;
  declare companyId: number | null;
  declare newCompany: string | null;
  declare state: string;
  declare createdAt: string;
  declare postedAt: string | null;
  declare actor: string;
  declare files: string;
  declare preview: string | null;
  declare base: string | null;
  declare issueCount: number;
  declare failure: string | null;
  declare choices: CreationOptional<string>;
  declare seal: CreationOptional<string | null>;
}
export class BudgetRow extends Model<InferAttributes<BudgetRow>, InferCreationAttributes<BudgetRow>> {
  declare id: CreationOptional<number>;
  declare companyId: number;
  declare year: number;
  declare name: string;
  declare fromYear: number | null;
  declare state: string;
  /** names of dimensions its lines are budgeted by, as JSON */
  declare dimensionsText: CreationOptional<string>;
  declare note: CreationOptional<string>;
  declare copiedFrom: CreationOptional<number | null>;
  declare version: CreationOptional<number>;
  declare createdAt: string;
  declare actor: string;
  get dimensions(): NonAttribute<readonly string[]> {
    return JSON.parse(this.dimensionsText) as string[];
  }
}

export type Models = {
  readonly companies: typeof CompanyRow;
  readonly fiscalYears: typeof FiscalYearRow;
  readonly accounts: typeof AccountRow;
  readonly imports: typeof ImportRow;
  readonly budgets: typeof BudgetRow;
};

const { INTEGER, TEXT, BOOLEAN } = DataTypes;
// Sequelize writes into the attributes it is given, so every column has an object of its own.
const id = () => ({ type: INTEGER, primaryKey: true, autoIncrement: true });
const whole = () => ({ type: INTEGER, allowNull: false });
const text = () => ({ type: TEXT, allowNull: false });
const textOrNull = () => ({ type: TEXT, allowNull: true });
const wholeOrNull = () => ({ type: INTEGER, allowNull: true });
const flag = () => ({ type: BOOLEAN, allowNull: false });

/** Binds the models to a connection. Each call makes its own classes, so that several databases can be open. */
export function defineModels(sequelize: Sequelize): Models {
  const options = (tableName: string) => ({ sequelize, tableName, underscored: true, timestamps: false });
  class Company extends CompanyRow {}
  Company.init(
    {
      id: id(),
      name: text(),
      currency: text(),
      startMonth: whole(),
      isDemo: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      hasAdjustmentPeriod: flag(),
      version: { ...whole(), defaultValue: 0 },
      createdAt: text(),
      lastActual: { type: DataTypes.INTEGER, allowNull: true },
      lastActualInsteadOf: { type: DataTypes.INTEGER, allowNull: true },
    },
    options('companies'),
  );
  class FiscalYear extends FiscalYearRow {}
  FiscalYear.init({ companyId: { ...whole(), primaryKey: true }, year: { ...whole(), primaryKey: true } }, options('fiscal_years'));
  class Account extends AccountRow {}
  Account.init(
    {
      id: id(),
      companyId: whole(),
      position: whole(),
      number: text(),
      name: text(),
      class: text(),
      groupName: textOrNull(),
      active: flag(),
      polarity: textOrNull(),
      cashflow: textOrNull(),
    },
    options('accounts'),
  );
  class Import extends ImportRow {}
  Import.init(
    {
      id: id(),
      companyId: wholeOrNull(),
      newCompany: textOrNull(),
      state: text(),
      createdAt: text(),
      postedAt: textOrNull(),
      actor: text(),
      files: text(),
      preview: textOrNull(),
      base: textOrNull(),
      issueCount: { ...whole(), defaultValue: 0 },
      failure: textOrNull(),
      choices: { ...text(), defaultValue: '{}' },
      seal: textOrNull(),
    },
    options('imports'),
  );
  class Budget extends BudgetRow {}
  Budget.init(
    {
      id: id(),
      companyId: whole(),
      year: whole(),
      name: text(),
      fromYear: wholeOrNull(),
      state: text(),
      dimensionsText: { ...text(), field: 'dimensions', defaultValue: '[]' },
      note: { ...text(), defaultValue: '' },
      copiedFrom: { ...wholeOrNull(), field: 'copied_from' },
      version: { ...whole(), defaultValue: 0 },
      createdAt: text(),
      actor: text(),
    },
    options('budgets'),
  );
  return { companies: Company, fiscalYears: FiscalYear, accounts: Account, imports: Import, budgets: Budget };
}
