/** Fish of coasts and estuaries. One species a row; the columns are those of `readSpeciesTable`. */
export const COASTAL = `
sea bass | Dicentrarchus labrax | european sea bass | marine | 13–22 | 27 | 24 | 4.5 | rising 9–13, 10–60 m | sight | near bottom | loose packs | 0.4 0.3 0.7 | 0.0105 3.02 | 1.03 | sand eel, sprat | Pickett & Pawson 1994 | 
cod | Gadus morhua | atlantic cod | marine | 4–12 | 16 | 14 | 4.5 | rising 3–7, 20–120 m | shy | near bottom | schools | 0.4 0.2 0.8 | 0.0085 3.04 | 2 | herring, sand eel | Righton et al. 2010; Chabot & Claireaux 2008 | 
pollack | Pollachius pollachius |  | marine | 8–15 | 18 | 16 | 5 | rising 8–11, 40–150 m | sight | cover | loose packs | 0.9 0.4 0.9 | 0.009 3 | 1.3 | sand eel | Cohen et al. 1990 (FAO 125) | temperature limits
mackerel | Scomber scombrus | atlantic mackerel | marine | 9–16 | 20 | 18 | 5.5 | rising 9–14, 0–40 m | sight | suspended | schools | 0 0 0.1 | 0.0052 3.2 | 0.6 | sand eel, sprat | Olafsdottir et al. 2019; Collette & Nauen 1983 | 
striped bass | Morone saxatilis | striper, rockfish | marine | 15–24 | 27 | 25 | 5 | rising 14–20, 0.5–6 m | shy | suspended | schools | 0.4 0.1 0.6 | 0.01 3.02 | 2 | menhaden, shad | Coutant 1985; Bain & Bain 1982 | in lakes squeezed between heat and want of oxygen
bluefish | Pomatomus saltatrix | tailor | marine | 17–25 | 29 | 27 | 4.5 | rising 18–25, 0–40 m | sight | suspended | schools | 0.1 0.1 0.3 |  | 1.3 | menhaden | Shepherd & Packer 2006; Olla et al. 1985 | least oxygen
red drum | Sciaenops ocellatus | redfish | marine | 20–29 | 33 | 30 | 3.5 | falling 22–28, 2–12 m | indifferent | bottom | loose packs | 0.3 0.6 0.4 | 0.008 3.05 | 1.55 | mullet | Buckley 1984; Reagan 1985 | 
spotted seatrout | Cynoscion nebulosus | speckled trout | marine | 20–28 | 32 | 29 | 4 | rising 22–29, 1–5 m | sight | near bottom | loose packs | 0.3 0.8 0.3 | 0.009 3 | 1 | mullet | Johnson & Seaman 1986; Kostecki 1984 | 
snapper | Chrysophrys auratus | australasian snapper | marine | 16–23 | 27 | 24 | 4 | rising 16–21, 10–50 m | indifferent | near bottom | schools | 0.4 0.3 0.9 |  | 1.3 |  | Crossland 1981; Parsons et al. 2014 | 
yellowtail kingfish | Seriola lalandi | kingfish | marine | 17–24 | 27 | 25 | 5 | rising 18–24, 0–40 m | sight | suspended | schools | 0.5 0.1 0.8 |  | 2.5 |  | Gillanders et al. 1999; Pirozzi & Booth 2009 | 
gilthead bream | Sparus aurata | dorade | marine | 15–25 | 30 | 27 | 3.5 | falling 13–17, 5–30 m | sight | near bottom | loose packs | 0.2 0.6 0.6 |  | 0.7 |  | Moretti et al. 1999; Ibarz et al. 2010 | 
flounder | Platichthys flesus | european flounder | marine | 8–18 | 24 | 20 | 3.5 | falling 4–8, 20–50 m | indifferent | bottom | loose packs | 0.1 0.1 0.1 |  | 0.6 |  | Skerritt 2010; Summers 1979 | spawns in winter, offshore
`;
