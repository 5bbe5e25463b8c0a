import fc from 'fast-check';

/** Where drawing begins if nobody says otherwise: what fails once fails again, and a change is what made it fail. */
const USUAL = 20_261_125;
const said = process.env.LANTERN_SEED;

/** `LANTERN_SEED=random` draws anew, to look for what the usual draws do not find; a number draws what it drew then. */
fc.configureGlobal({
  seed: said === 'random' ? Math.floor(Math.random() * 2 ** 31) : Number(said ?? USUAL),
});
