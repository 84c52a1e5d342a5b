/** Fish of lakes, reservoirs and rivers that are fished for. One species a row; the columns are those of `readSpeciesTable`. */
export const FRESH_WATER = `
zander | Sander lucioperca | pikeperch, pike-perch | cool | 16–24 | 29 | 24 | 4 | rising 10–15 | shy | near bottom | loose packs | 0.6 0.1 0.8 | 0.0046 3.16 | smelt, roach, perch, vendace | Lappalainen et al. 2003; Hokanson 1977 | least oxygen varies from 3 to 5 mg/l between studies
walleye | Sander vitreus | yellow pike | cool | 18–23 | 28 | 24 | 4 | rising 6–11 | shy | near bottom | loose packs | 0.5 0.4 0.8 | 0.0051 3.18 | yellow perch, smelt, cisco | Hokanson 1977; Colby et al. 1979 (FAO synopsis 119) | 
perch | Perca fluviatilis | european perch, eurasian perch | cool | 16–23 | 28 | 25 | 3.5 | rising 7–14 | sight | near bottom | schools | 0.5 0.6 0.5 | 0.0105 3.09 | smelt, vendace, roach | Hokanson 1977; Thorpe 1977 (FAO synopsis 113) | 
yellow perch | Perca flavescens |  | cool | 17–24 | 29 | 26 | 3.5 | rising 7–12 | sight | near bottom | schools | 0.4 0.6 0.4 | 0.0098 3.1 | shiner | Hokanson 1977; Krieger et al. 1983 | 
pike | Esox lucius | northern pike | cool | 14–21 | 26 | 21 | 3 | rising 6–12 | sight | cover | alone | 0.5 0.9 0.2 | 0.0048 3.09 | roach, perch, vendace, bream | Casselman 1978; Craig 1996 | large fish seek cooler water than small ones
muskellunge | Esox masquinongy | musky | cool | 17–24 | 28 | 24 | 3.5 | rising 9–15 | sight | cover | alone | 0.6 0.8 0.3 | 0.0038 3.2 | cisco, perch | Cook & Solomon 1987; Scott & Crossman 1973 | least oxygen
largemouth bass | Micropterus salmoides | largemouth | warm | 24–30 | 34 | 30 | 3 | rising 15–21 | sight | cover | loose packs | 0.9 0.8 0.3 | 0.0099 3.13 | shad, sunfish | Stuber et al. 1982; Coutant 1975 | 
smallmouth bass | Micropterus dolomieu | smallmouth | cool | 20–27 | 31 | 28 | 4 | rising 13–18 | sight | near bottom | loose packs | 0.5 0.2 0.9 | 0.0102 3.1 | shad, shiner | Edwards et al. 1983; Coutant 1975 | 
spotted bass | Micropterus punctulatus |  | warm | 23–29 | 32 | 29 | 3.5 | rising 14–19 | sight | suspended | loose packs | 0.5 0.2 0.8 |  | shad | McMahon et al. 1984 | least oxygen
black crappie | Pomoxis nigromaculatus | crappie | warm | 21–27 | 31 | 28 | 3 | rising 15–20 | shy | suspended | schools | 0.9 0.5 0.2 | 0.0093 3.2 | shad, shiner | Edwards et al. 1982 | 
white crappie | Pomoxis annularis |  | warm | 22–28 | 32 | 28 | 3 | rising 16–20 | shy | suspended | schools | 0.9 0.3 0.2 | 0.0088 3.2 | shad | Edwards et al. 1982 | 
bluegill | Lepomis macrochirus | sunfish | warm | 24–30 | 34 | 31 | 2.5 | rising 20–27 | sight | cover | schools | 0.7 0.8 0.2 | 0.0143 3.2 |  | Stuber et al. 1982 | winters suspended over deep soft basins
channel catfish | Ictalurus punctatus | channel cat | warm | 24–30 | 34 | 31 | 3 | rising 21–27 | indifferent | bottom | loose packs | 0.7 0.1 0.3 | 0.0056 3.18 | shad, sunfish | McMahon & Terrell 1982 | 
flathead catfish | Pylodictis olivaris | flathead | warm | 24–31 | 34 | 31 | 3 | rising 22–28 | shy | bottom | alone | 0.95 0.1 0.3 |  | shad, sunfish | Lee & Terrell 1987 | least oxygen
wels catfish | Silurus glanis | wels, european catfish | warm | 22–28 | 32 | 29 | 2 | rising 18–23 | shy | bottom | alone | 0.8 0.2 0.3 | 0.006 3.04 | bream, roach | Copp et al. 2009 | upper avoidance
bream | Abramis brama | common bream | warm | 18–26 | 30 | 27 | 3 | rising 14–20 | indifferent | bottom | schools | 0.1 0.2 0.1 | 0.0087 3.14 |  | Backiel & Zawisza 1968 (FAO synopsis 36) | least oxygen
common carp | Cyprinus carpio | carp | warm | 20–28 | 33 | 30 | 2 | rising 17–23 | indifferent | bottom | loose packs | 0.4 0.7 0.1 | 0.015 3.03 |  | Edwards & Twomey 1982 | 
tench | Tinca tinca |  | warm | 20–26 | 31 | 29 | 2 | rising 18–24 | shy | bottom | loose packs | 0.3 0.9 0.1 |  |  | Perez-Regadera et al. 1994; Kottelat & Freyhof 2007 | 
brown trout | Salmo trutta | trout | cold | 8–16 | 20 | 18 | 5.5 | falling 4–9 | sight | suspended | alone | 0.5 0.2 0.5 | 0.01 3.02 | smelt, vendace | Elliott 1994; Raleigh et al. 1986 | 
rainbow trout | Oncorhynchus mykiss | steelhead | cold | 10–17 | 21 | 19 | 5 | rising 6–12 | sight | suspended | loose packs | 0.3 0.2 0.3 | 0.0106 3 | smelt | Raleigh et al. 1984 | 
arctic char | Salvelinus alpinus | char, arctic charr, charr | cold | 6–13 | 16 | 14 | 5 | falling 3–7 | shy | near bottom | loose packs | 0.1 0.1 0.5 | 0.0071 3.08 | vendace, smelt | Larsson 2005; Elliott & Baroudy 1995 | 
lake trout | Salvelinus namaycush | lake char | cold | 7–12 | 15 | 14 | 5 | falling 6–11 | shy | near bottom | loose packs | 0.1 0.1 0.7 | 0.0063 3.12 | cisco, smelt | Marcus et al. 1984; Christie & Regier 1988 | 
whitefish | Coregonus lavaretus | common whitefish, lavaret | cold | 7–15 | 18 | 16 | 4.5 | falling 2–7 | shy | near bottom | schools | 0 0.1 0.3 | 0.0058 3.2 |  | Kottelat & Freyhof 2007; Szczepkowski et al. 2006 | forms differ greatly between lakes
burbot | Lota lota | eelpout | cold | 5–12 | 18 | 15 | 4 | falling 0–4 | shy | bottom | loose packs | 0.4 0.1 0.7 | 0.0075 2.95 | smelt, perch | McPhail & Paragamian 2000; Stapanian et al. 2010 | spawns under ice
barramundi | Lates calcarifer | asian sea bass | warm | 26–31 | 35 | 33 | 3.5 | rising 27–33 | indifferent | cover | loose packs | 0.9 0.3 0.4 | 0.011 3 | mullet | Tucker et al. 2002; Moore 1982 | spawns in brackish and salt water
murray cod | Maccullochella peelii |  | warm | 20–26 | 31 | 28 | 4 | rising 15–21 | shy | cover | alone | 0.95 0.1 0.4 | 0.0068 3.2 | golden perch | Koehn & Harrington 2006; Stoffels et al. 2016 | 
golden perch | Macquaria ambigua | yellowbelly | warm | 19–27 | 32 | 29 | 3.5 | rising 20–26 | indifferent | near bottom | loose packs | 0.8 0.2 0.4 |  |  | Lake 1967; King et al. 2009 | 
nile perch | Lates niloticus |  | warm | 24–29 | 33 | 30 | 4.5 | rising 25–30 | sight | near bottom | loose packs | 0.4 0.2 0.7 | 0.0108 3.03 | cichlids | Kitchell et al. 1997; Schofield & Chapman 2000 | spawning range
peacock bass | Cichla ocellaris | tucunare | warm | 25–30 | 34 | 31 | 3 | rising 26–31 | sight | cover | loose packs | 0.8 0.4 0.5 |  |  | Zaret 1980; Winemiller 2001 | most of it: taken from few studies
`;
