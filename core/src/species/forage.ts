/** Fish that others eat. One species a row; the columns are those of `readSpeciesTable`. */
export const FORAGE = `
roach | Rutilus rutilus | common roach | cool | 14–23 | 29 | 26 | 3 | rising 12–17, 0.2–1.5 m | sight | suspended | schools | 0.3 0.6 0.2 | 0.0075 3.16 | 0.5 |  | Kottelat & Freyhof 2007; van Dijk et al. 2002 | least oxygen
bleak | Alburnus alburnus |  | cool | 16–24 | 30 | 27 | 4 | rising 14–20, 0.1–1 m | sight | surface | clouds | 0.1 0.2 0.1 |  | 0.25 |  | Kottelat & Freyhof 2007 | least oxygen
smelt | Osmerus eperlanus | european smelt | cold | 7–16 | 20 | 18 | 4.5 | rising 4–9, 0.2–2 m | shy | suspended | clouds | 0 0 0.2 |  | 0.45 |  | Kangur et al. 2007; Nellbring 1989 | upper avoidance differs between lakes
vendace | Coregonus albula | european cisco | cold | 7–14 | 18 | 16 | 4 | falling 3–7, 2–15 m | shy | suspended | clouds | 0 0 0 |  | 0.48 |  | Hamrin 1986; Mehner et al. 2010 | 
cisco | Coregonus artedi | lake herring | cold | 7–13 | 20 | 17 | 3 | falling 3–6, 1–8 m | shy | suspended | clouds | 0 0 0.1 |  | 0.57 |  | Rudstam & Magnuson 1985; Jacobson et al. 2008 | 
gizzard shad | Dorosoma cepedianum | shad | warm | 20–28 | 33 | 30 | 3 | rising 16–22, 0.2–2 m | indifferent | suspended | clouds | 0.1 0.1 0.1 |  | 0.57 |  | Williamson & Nelson 1985 | 
threadfin shad | Dorosoma petenense |  | warm | 22–28 | 33 | 30 | 3.5 | rising 17–24, 0.1–1.5 m | sight | suspended | clouds | 0.1 0.1 0.1 |  | 0.33 |  | Griffith 1978; Jenkins & Burkhead 1994 | dies in cold below about 5 °C
herring | Clupea harengus | atlantic herring | marine | 5–14 | 18 | 16 | 4.5 | falling 6–12, 5–60 m | shy | suspended | clouds | 0 0.1 0.4 |  | 0.45 |  | Whitehead 1985 (FAO 125) | spring and autumn spawners differ
`;
