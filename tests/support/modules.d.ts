declare module 'ml-regression-theil-sen' {
  export class TheilSenRegression {
    constructor(x: number[], y: number[]);
    readonly slope: number;
    readonly intercept: number;
  }
}

/** As much of the client as the tests use. */
declare module 'tincanjs' {
  type Options = Record<string, unknown> & { callback: (error: unknown, value: never) => void };
  interface Made {
    readonly id: string;
  }
  interface Client {
    saveStatement(statement: Made, options: Options): void;
    retrieveStatement(id: string, options: Options): void;
    retrieveActivity(id: string, options: Options): void;
    saveState(key: string, value: string, options: Options): void;
    retrieveState(key: string, options: Options): void;
    dropState(key: string, options: Options): void;
    saveActivityProfile(key: string, value: string, options: Options): void;
    retrieveActivityProfile(key: string, options: Options): void;
    saveAgentProfile(key: string, value: string, options: Options): void;
    retrieveAgentProfileIds(options: Options): void;
  }
  type Maker = new (from: object) => Made;
  const library: { LRS: new (settings: object) => Client; Statement: Maker; Agent: Maker; Activity: Maker };
  export default library;
}
