/*
 * Places with typical climates, from memory: round figures of published monthly means, good for planning and no more.
 * A line: id | name | latitude, longitude, metres | time zone | mean daily maximum, minimum and dew point in degC and
 * clearness in hundredths, each for January, April, July and October | sea in January and July, where there is any
 * (else -) | wind m/s.
 */
const TABLE = `
faro|Faro, Algarve|37.02,-7.93,8|Europe/Lisbon|16,20,29,23|7,11,19,15|8,10,15,14|53,61,71,58|16,21|4
sagres|Sagres, Algarve|37.01,-8.94,40|Europe/Lisbon|16,18,23,21|10,12,17,16|10,11,15,14|52,60,70,57|16,19|6
lisbon|Lisbon|38.72,-9.14,77|Europe/Lisbon|15,20,28,23|8,12,18,15|8,9,14,13|48,57,70,54|15,18|5
porto|Porto|41.15,-8.61,93|Europe/Lisbon|14,18,25,21|5,9,16,12|7,9,14,12|43,52,63,48|13,17|4
evora|Évora|38.57,-7.91,309|Europe/Lisbon|13,19,31,22|6,9,17,13|6,8,12,11|48,57,72,55|-|3
funchal|Funchal, Madeira|32.65,-16.91,60|Atlantic/Madeira|20,21,25,25|14,14,19,19|12,12,17,17|48,54,60,52|18,22|3
ponta-delgada|Ponta Delgada, Azores|37.74,-25.67,20|Atlantic/Azores|17,18,24,22|12,12,18,16|11,11,17,15|38,45,52,44|16,21|5
seville|Seville|37.39,-5.99,11|Europe/Madrid|16,23,36,26|6,11,20,15|6,9,13,13|51,58,72,56|-|3
tarifa|Tarifa|36.01,-5.60,30|Europe/Madrid|15,18,24,21|11,13,19,17|10,12,18,15|50,58,70,55|16,20|8
malaga|Málaga|36.72,-4.42,10|Europe/Madrid|17,21,30,24|8,11,20,15|8,10,17,14|52,58,70,56|15,21|4
almeria|Almería|36.84,-2.46,20|Europe/Madrid|17,21,30,24|9,12,21,17|8,10,18,14|54,60,70,57|15,23|4
granada|Granada|37.18,-3.60,700|Europe/Madrid|12,19,34,22|1,6,17,9|2,4,9,7|52,57,73,56|-|2
valencia|Valencia|39.47,-0.38,15|Europe/Madrid|16,20,30,24|7,11,21,15|6,9,19,14|51,56,64,53|14,24|4
barcelona|Barcelona|41.39,2.17,12|Europe/Madrid|14,18,28,22|7,11,21,15|6,9,18,14|49,53,62,50|13,23|4
madrid|Madrid|40.42,-3.70,660|Europe/Madrid|10,18,33,20|1,7,18,10|1,4,9,8|48,54,71,53|-|3
palma|Palma, Mallorca|39.57,2.65,10|Europe/Madrid|15,19,30,24|7,10,21,16|7,9,19,15|49,55,66,52|14,24|4
bilbao|Bilbao|43.26,-2.93,20|Europe/Madrid|13,17,25,21|5,8,16,12|6,8,16,12|38,44,52,44|13,20|4
las-palmas|Las Palmas, Canaries|28.12,-15.43,20|Atlantic/Canary|21,22,27,26|15,16,21,21|13,14,19,19|53,60,62,57|19,21|6
bordeaux|Bordeaux|44.84,-0.58,20|Europe/Paris|10,17,27,19|3,7,16,10|4,7,15,11|38,47,56,44|12,20|3
biarritz|Biarritz|43.48,-1.56,70|Europe/Paris|12,16,24,20|5,8,17,12|6,9,16,12|39,45,51,45|12,20|4
marseille|Marseille|43.30,5.37,30|Europe/Paris|11,18,30,21|3,9,20,13|3,7,16,11|47,55,66,50|13,21|5
nice|Nice|43.70,7.26,10|Europe/Paris|13,17,27,21|6,10,20,14|4,8,18,12|47,53,64,49|13,23|4
ajaccio|Ajaccio, Corsica|41.93,8.74,10|Europe/Paris|14,18,28,23|4,8,18,13|5,8,17,13|48,55,67,52|14,23|4
lyon|Lyon|45.76,4.84,170|Europe/Paris|7,16,28,17|1,7,17,9|1,5,14,9|33,47,58,41|-|3
paris|Paris|48.86,2.35,40|Europe/Paris|8,16,26,16|3,7,16,9|3,5,13,9|31,46,52,40|-|4
chamonix|Chamonix|45.92,6.87,1035|Europe/Paris|3,12,24,14|-6,1,11,4|-5,1,11,5|45,47,53,48|-|2
rome|Rome|41.90,12.50,30|Europe/Rome|12,18,31,22|4,9,19,13|4,8,17,12|47,54,66,52|14,24|4
naples|Naples|40.85,14.27,20|Europe/Rome|13,18,30,23|5,9,20,14|5,8,18,13|46,53,66,51|14,24|4
palermo|Palermo, Sicily|38.12,13.36,20|Europe/Rome|15,18,29,23|9,11,23,17|7,10,19,15|48,55,69,53|15,24|4
catania|Catania, Sicily|37.50,15.09,20|Europe/Rome|16,20,32,24|5,9,20,14|6,9,17,14|50,56,70,53|15,24|4
cagliari|Cagliari, Sardinia|39.22,9.12,20|Europe/Rome|14,18,30,23|6,10,20,15|6,9,18,14|48,55,68,53|14,23|5
venice|Venice|45.44,12.33,2|Europe/Rome|7,17,28,18|0,9,19,10|1,8,17,11|39,48,57,43|9,24|3
bolzano|Bolzano|46.50,11.35,260|Europe/Rome|6,19,30,18|-4,6,16,6|-5,4,15,8|47,50,55,47|-|2
split|Split|43.51,16.44,20|Europe/Zagreb|11,18,30,21|6,10,21,14|3,8,16,12|44,52,65,50|13,23|4
dubrovnik|Dubrovnik|42.65,18.09,50|Europe/Zagreb|12,17,29,21|7,11,22,15|3,9,17,12|44,52,66,51|14,23|4
corfu|Corfu|39.62,19.92,10|Europe/Athens|14,19,31,23|5,9,19,14|6,10,17,15|46,53,68,52|15,24|3
paxos|Paxos, Ionian Sea|39.20,20.18,20|Europe/Athens|14,19,30,23|7,11,21,16|7,11,18,15|46,54,69,53|15,25|3
athens|Athens|37.98,23.73,90|Europe/Athens|13,20,33,23|7,12,23,16|5,9,15,13|46,55,69,53|15,25|4
heraklion|Heraklion, Crete|35.34,25.14,20|Europe/Athens|15,20,29,24|9,12,22,17|8,11,18,15|45,57,71,55|16,24|5
rhodes|Rhodes|36.44,28.22,10|Europe/Athens|15,20,31,25|9,13,24,18|8,12,19,15|47,57,72,56|17,25|5
thessaloniki|Thessaloniki|40.64,22.94,10|Europe/Athens|10,20,32,22|2,9,21,13|1,8,16,11|43,51,64,48|11,25|3
izmir|İzmir|38.42,27.14,20|Europe/Istanbul|13,21,33,24|6,11,23,15|4,9,16,12|45,54,69,54|14,24|4
antalya|Antalya|36.90,30.70,30|Europe/Istanbul|15,21,34,27|6,11,23,16|5,11,20,14|48,56,68,57|17,27|3
bodrum|Bodrum|37.03,27.43,20|Europe/Istanbul|15,20,34,25|9,13,25,18|7,10,17,13|47,56,71,56|17,24|5
istanbul|Istanbul|41.01,28.98,30|Europe/Istanbul|9,17,29,20|4,9,20,14|4,8,18,13|36,47,60,45|8,24|5
limassol|Limassol, Cyprus|34.68,33.04,10|Asia/Nicosia|18,22,32,28|8,12,22,18|8,12,20,16|50,60,70,60|17,26|4
nicosia|Nicosia, Cyprus|35.17,33.36,150|Asia/Nicosia|16,24,37,28|5,10,22,16|5,9,16,13|50,60,70,60|-|3
valletta|Valletta, Malta|35.90,14.51,50|Europe/Malta|16,19,31,25|10,12,23,19|9,12,20,17|50,58,71,56|16,25|5
varna|Varna|43.21,27.91,40|Europe/Sofia|6,15,28,18|-1,7,18,10|-1,6,17,10|37,46,58,45|7,24|4
bucharest|Bucharest|44.43,26.10,80|Europe/Bucharest|3,18,31,18|-5,6,17,6|-4,5,15,8|39,47,58,46|-|2
budapest|Budapest|47.50,19.04,110|Europe/Budapest|3,17,28,16|-2,7,17,8|-2,5,14,8|35,48,55,43|-|3
vienna|Vienna|48.21,16.37,170|Europe/Vienna|4,16,27,15|-2,6,16,7|-2,4,14,8|34,46,53,40|-|4
innsbruck|Innsbruck|47.27,11.39,580|Europe/Vienna|4,16,26,16|-5,4,14,5|-5,3,13,7|44,46,49,46|-|2
zermatt|Zermatt|46.02,7.75,1620|Europe/Zurich|1,8,20,11|-8,-1,9,2|-9,-3,8,1|52,50,55,54|-|2
zurich|Zurich|47.37,8.54,430|Europe/Zurich|3,14,25,14|-2,4,14,7|-2,3,13,8|31,45,52,38|-|3
munich|Munich|48.14,11.58,520|Europe/Berlin|3,14,25,14|-4,3,13,5|-3,3,13,7|36,45,51,41|-|3
berlin|Berlin|52.52,13.41,40|Europe/Berlin|3,14,25,14|-2,4,14,6|-1,3,13,8|28,45,49,37|-|4
hamburg|Hamburg|53.55,9.99,10|Europe/Berlin|4,13,23,14|-1,4,13,7|1,4,13,8|26,44,46,35|-|4
amsterdam|Amsterdam|52.37,4.90,0|Europe/Amsterdam|6,13,22,15|1,5,13,8|2,5,13,9|27,45,47,37|6,18|5
copenhagen|Copenhagen|55.68,12.57,10|Europe/Copenhagen|4,11,22,12|-1,3,14,7|-1,3,13,7|27,45,49,36|4,18|5
stockholm|Stockholm|59.33,18.07,20|Europe/Stockholm|1,9,23,10|-4,1,14,5|-4,-1,12,5|28,45,49,35|2,17|4
oslo|Oslo|59.91,10.75,20|Europe/Oslo|-1,10,22,10|-7,1,12,3|-7,0,12,4|30,45,48,34|3,18|3
bergen|Bergen|60.39,5.32,10|Europe/Oslo|5,10,19,12|0,4,12,7|0,3,11,7|22,41,40,29|6,15|4
tromso|Tromsø|69.65,18.96,10|Europe/Oslo|-2,4,16,5|-6,-2,9,1|-6,-3,9,1|10,44,42,27|5,11|4
helsinki|Helsinki|60.17,24.94,10|Europe/Helsinki|-2,8,22,9|-7,1,14,4|-7,-1,13,4|27,45,50,33|1,17|4
rovaniemi|Rovaniemi|66.50,25.73,180|Europe/Helsinki|-8,4,20,3|-16,-5,11,-2|-14,-5,10,-1|18,47,46,28|-|3
reykjavik|Reykjavík|64.15,-21.94,20|Atlantic/Reykjavik|2,7,15,7|-3,1,9,2|-2,0,8,2|22,43,42,31|5,11|6
london|London|51.51,-0.13,20|Europe/London|8,15,24,16|3,6,14,9|4,5,12,9|27,43,47,36|-|4
falmouth|Falmouth, Cornwall|50.15,-5.07,50|Europe/London|9,12,19,14|4,6,13,10|6,7,13,10|29,45,46,37|10,16|6
edinburgh|Edinburgh|55.95,-3.19,40|Europe/London|7,12,19,13|1,4,11,7|2,4,11,7|25,42,42,34|7,13|5
galway|Galway|53.27,-9.05,20|Europe/Dublin|8,13,19,14|3,6,12,8|5,7,12,9|26,44,40,35|10,15|6
marrakesh|Marrakesh|31.63,-8.00,460|Africa/Casablanca|18,25,38,28|6,12,21,15|4,7,11,10|58,62,70,61|-|3
agadir|Agadir|30.42,-9.60,20|Africa/Casablanca|20,22,26,25|8,12,18,15|8,11,17,14|58,62,62,60|17,20|4
dakhla|Dakhla|23.71,-15.93,10|Africa/El_Aaiun|22,23,27,27|14,15,19,19|11,13,18,17|60,66,64,61|18,20|8
tunis|Tunis|36.81,10.18,10|Africa/Tunis|16,21,33,26|8,11,21,17|8,10,18,15|48,56,69,54|15,24|4
djerba|Djerba|33.81,10.85,10|Africa/Tunis|16,22,33,27|9,14,23,20|7,11,18,16|54,60,70,58|15,25|4
cairo|Cairo|30.04,31.24,30|Africa/Cairo|19,28,35,29|10,15,23,19|6,9,19,15|57,63,70,63|-|4
hurghada|Hurghada|27.26,33.81,10|Africa/Cairo|22,28,37,31|11,18,28,23|6,9,17,15|64,67,73,67|22,28|6
eilat|Eilat|29.56,34.95,10|Asia/Jerusalem|21,31,40,33|10,18,27,21|3,4,9,9|60,65,72,66|22,27|4
amman|Amman|31.95,35.93,780|Asia/Amman|13,23,33,27|4,10,20,15|3,5,12,9|52,61,73,61|-|3
dubai|Dubai|25.20,55.27,10|Asia/Dubai|24,33,41,35|14,21,31,24|13,15,24,20|60,62,61,65|22,32|4
muscat|Muscat|23.59,58.41,10|Asia/Muscat|25,33,38,34|18,24,31,25|13,15,25,20|62,63,58,65|24,31|4
doha|Doha|25.29,51.53,10|Asia/Qatar|22,32,41,35|14,21,32,25|12,14,22,20|58,60,62,64|20,32|5
riyadh|Riyadh|24.71,46.68,600|Asia/Riyadh|20,33,43,35|9,20,29,20|4,6,4,5|58,58,66,66|-|4
jeddah|Jeddah|21.49,39.19,10|Asia/Riyadh|29,34,39,36|19,22,27,24|16,17,21,22|58,62,62,62|26,31|4
cape-town|Cape Town|-33.92,18.42,30|Africa/Johannesburg|27,23,18,21|17,13,8,12|15,13,8,11|64,55,50,60|18,14|6
durban|Durban|-29.86,31.02,10|Africa/Johannesburg|28,26,23,24|21,18,11,17|20,17,10,16|48,53,60,45|25,21|4
kruger|Skukuza, Lowveld|-24.99,31.59,270|Africa/Johannesburg|33,29,26,31|21,16,6,16|20,16,7,14|52,57,62,53|-|2
upington|Upington, Kalahari|-28.45,21.26,840|Africa/Johannesburg|36,28,21,30|20,13,2,12|10,8,0,4|66,62,66,67|-|3
windhoek|Windhoek|-22.57,17.08,1650|Africa/Windhoek|30,26,20,29|18,13,7,15|11,9,-2,2|60,61,70,66|-|4
swakopmund|Swakopmund|-22.68,14.53,10|Africa/Windhoek|20,20,19,17|15,13,9,11|14,12,8,11|56,58,58,56|18,14|4
maun|Maun, Okavango|-19.98,23.42,940|Africa/Gaborone|32,31,26,36|20,16,8,20|18,13,3,9|52,61,68,62|-|2
nairobi|Nairobi|-1.29,36.82,1680|Africa/Nairobi|26,25,22,26|13,15,12,14|12,15,11,12|57,48,42,53|-|4
mombasa|Mombasa|-4.04,39.67,20|Africa/Nairobi|32,31,28,30|23,24,21,23|23,24,21,23|56,50,50,56|28,26|5
dakar|Dakar|14.72,-17.47,20|Africa/Dakar|26,25,30,31|17,18,25,25|14,17,24,24|57,65,52,57|20,27|5
accra|Accra|5.60,-0.19,60|Africa/Accra|32,33,28,30|24,25,23,24|22,25,23,24|46,51,41,49|28,25|4
reunion|Saint-Denis, Réunion|-20.88,55.45,10|Indian/Reunion|30,29,26,27|23,22,18,20|22,21,16,18|51,54,56,56|27,24|5
mauritius|Port Louis, Mauritius|-20.16,57.50,10|Indian/Mauritius|31,30,25,28|24,23,19,20|22,21,17,18|53,54,55,57|27,24|6
male|Malé, Maldives|4.18,73.51,2|Indian/Maldives|30,32,31,30|26,27,26,26|23,25,25,24|56,57,50,51|28,29|5
goa|Panaji, Goa|15.49,73.83,10|Asia/Kolkata|33,33,29,32|20,26,24,24|17,24,24,23|61,60,32,52|28,28|3
kochi|Kochi|9.93,76.27,5|Asia/Kolkata|32,33,29,31|23,26,24,24|20,25,24,24|58,54,38,48|28,28|3
jaisalmer|Jaisalmer, Thar|26.92,70.91,230|Asia/Kolkata|24,38,39,37|8,22,27,20|3,8,24,11|63,64,54,66|-|4
leh|Leh, Ladakh|34.16,77.58,3500|Asia/Kolkata|-2,12,25,14|-14,-1,11,-1|-16,-9,5,-8|55,58,60,66|-|2
colombo|Colombo|6.93,79.85,10|Asia/Colombo|31,32,30,30|23,25,25,24|22,25,25,24|55,51,50,47|27,28|4
kathmandu|Kathmandu|27.72,85.32,1350|Asia/Kathmandu|19,28,29,26|2,12,20,13|4,9,20,14|57,55,36,58|-|2
bangkok|Bangkok|13.76,100.50,5|Asia/Bangkok|32,35,33,33|22,27,26,25|20,25,25,25|52,50,41,43|-|2
phuket|Phuket|7.88,98.39,5|Asia/Bangkok|32,33,32,31|24,25,25,24|23,25,25,24|55,51,42,42|29,29|3
hanoi|Hanoi|21.03,105.85,10|Asia/Ho_Chi_Minh|20,28,33,29|15,22,27,23|14,22,26,21|26,31,46,43|-|3
singapore|Singapore|1.35,103.82,10|Asia/Singapore|30,32,31,32|24,25,26,25|23,25,25,25|43,45,43,43|28,29|3
bali|Denpasar, Bali|-8.65,115.22,10|Asia/Makassar|33,32,30,33|24,24,23,24|24,24,22,23|48,54,56,57|29,27|3
manila|Manila|14.60,120.98,10|Asia/Manila|30,34,31,31|23,26,25,25|20,23,25,24|49,58,41,42|27,29|3
taipei|Taipei|25.03,121.57,10|Asia/Taipei|19,26,35,27|14,20,27,22|13,19,24,19|28,32,49,37|22,28|3
okinawa|Naha, Okinawa|26.21,127.68,20|Asia/Tokyo|20,24,32,28|15,19,27,23|12,18,25,20|33,41,58,48|22,28|5
tokyo|Tokyo|35.68,139.69,30|Asia/Tokyo|10,19,30,22|1,10,23,15|-2,9,22,14|53,45,38,40|15,24|3
sapporo|Sapporo|43.06,141.35,20|Asia/Tokyo|-1,12,25,16|-6,3,18,8|-7,2,18,7|43,46,42,44|5,18|4
seoul|Seoul|37.57,126.98,40|Asia/Seoul|2,18,29,20|-5,8,22,10|-10,4,21,8|49,48,34,50|-|2
hong-kong|Hong Kong|22.32,114.17,30|Asia/Hong_Kong|19,25,32,28|15,21,27,23|12,20,25,19|37,34,48,49|17,28|3
sydney|Sydney|-33.87,151.21,20|Australia/Sydney|27,23,17,22|20,15,9,14|17,13,5,10|52,52,50,54|22,18|4
brisbane|Brisbane|-27.47,153.03,10|Australia/Brisbane|30,27,22,27|22,17,10,16|20,16,8,14|53,52,56,55|27,21|4
cairns|Cairns|-16.92,145.77,5|Australia/Brisbane|32,29,26,30|24,22,17,21|23,21,16,18|46,48,56,58|29,24|4
alice-springs|Alice Springs|-23.70,133.88,550|Australia/Darwin|36,28,20,31|21,13,4,15|10,6,-1,2|65,65,67,65|-|3
darwin|Darwin|-12.46,130.84,20|Australia/Darwin|32,33,31,34|25,24,20,25|25,22,14,23|46,58,65,60|30,26|4
broome|Broome|-17.96,122.24,10|Australia/Perth|33,34,29,33|26,23,14,23|25,19,9,18|54,63,69,68|30,24|4
perth|Perth|-31.95,115.86,20|Australia/Perth|31,26,18,23|18,14,8,11|13,11,8,9|67,57,50,61|22,20|5
adelaide|Adelaide|-34.93,138.60,40|Australia/Adelaide|30,23,15,22|17,13,8,11|10,9,7,7|63,54,46,56|20,14|4
melbourne|Melbourne|-37.81,144.96,30|Australia/Melbourne|26,20,14,20|15,11,7,10|11,9,6,8|54,48,42,49|19,13|4
hobart|Hobart|-42.88,147.33,30|Australia/Hobart|23,18,12,17|13,9,5,8|9,7,4,6|49,45,41,47|17,12|4
auckland|Auckland|-36.85,174.76,30|Pacific/Auckland|23,20,15,18|16,13,8,11|15,12,8,10|51,49,45,48|21,15|5
queenstown|Queenstown|-45.03,168.66,330|Pacific/Auckland|22,16,8,16|10,6,-1,5|8,6,0,4|50,46,43,47|-|3
nadi|Nadi, Fiji|-17.76,177.44,10|Pacific/Fiji|32,31,28,30|23,22,19,21|23,22,18,20|50,52,54,55|29,26|3
papeete|Papeete, Tahiti|-17.54,-149.57,5|Pacific/Tahiti|31,31,28,29|24,24,21,22|23,23,20,21|49,53,56,54|28,26|3
honolulu|Honolulu|21.31,-157.86,10|Pacific/Honolulu|27,28,31,30|19,20,23,23|17,17,20,20|53,56,60,56|25,26|5
anchorage|Anchorage|61.22,-149.90,30|America/Anchorage|-5,7,19,4|-11,-2,11,-2|-11,-4,10,-2|25,47,43,31|-|3
vancouver|Vancouver|49.28,-123.12,10|America/Vancouver|7,13,22,14|2,6,14,7|3,5,13,8|27,45,54,38|8,17|3
seattle|Seattle|47.61,-122.33,50|America/Los_Angeles|8,15,25,16|3,6,14,9|3,5,12,8|29,45,57,39|8,14|3
moab|Moab, Utah|38.57,-109.55,1230|America/Denver|6,23,38,23|-7,6,19,5|-8,-4,6,0|57,62,66,63|-|2
denver|Denver|39.74,-104.99,1610|America/Denver|7,16,32,18|-8,1,15,2|-12,-3,10,-2|57,56,60,58|-|4
yellowstone|West Yellowstone|44.66,-111.10,2030|America/Denver|-3,8,27,11|-17,-6,4,-5|-15,-6,4,-4|48,53,63,52|-|3
los-angeles|Los Angeles|34.05,-118.24,80|America/Los_Angeles|20,23,28,26|9,12,18,15|4,9,15,11|55,60,68,57|15,20|2
san-diego|San Diego|32.72,-117.16,10|America/Los_Angeles|19,20,24,23|9,13,18,16|6,10,16,12|56,58,62,57|15,20|3
san-francisco|San Francisco|37.77,-122.42,20|America/Los_Angeles|14,18,20,21|8,10,12,12|7,8,11,10|48,60,66,57|12,14|5
death-valley|Furnace Creek, Mojave|36.46,-116.87,-60|America/Los_Angeles|20,33,47,34|4,17,32,17|-4,0,8,2|60,67,71,64|-|3
las-vegas|Las Vegas|36.17,-115.14,610|America/Los_Angeles|15,26,41,27|4,13,28,15|-4,-3,7,0|59,67,69,64|-|4
quartzsite|Quartzsite, Arizona|33.66,-114.23,270|America/Phoenix|20,30,42,32|6,14,28,17|0,0,13,5|60,69,67,65|-|3
tucson|Tucson, Arizona|32.22,-110.97,730|America/Phoenix|19,28,38,30|5,12,25,15|-1,-2,16,6|61,70,60,66|-|3
santa-fe|Santa Fe|35.69,-105.94,2130|America/Denver|7,18,31,19|-7,2,15,4|-9,-6,10,0|60,64,60,62|-|4
austin|Austin, Texas|30.27,-97.74,150|America/Chicago|17,27,36,28|6,15,24,16|5,14,21,14|49,50,62,56|-|4
corpus-christi|Corpus Christi|27.80,-97.40,5|America/Chicago|19,27,34,30|9,18,25,19|9,18,24,18|43,48,63,55|17,29|5
new-orleans|New Orleans|29.95,-90.07,2|America/Chicago|17,26,33,27|8,16,25,18|7,15,23,16|43,53,50,56|15,30|4
nashville|Nashville|36.16,-86.78,180|America/Chicago|9,22,32,22|-1,9,21,10|-3,8,20,10|39,50,53,52|-|3
chicago|Chicago|41.88,-87.63,180|America/Chicago|0,15,29,17|-8,5,20,8|-8,3,18,7|42,48,56,47|2,21|4
miami|Miami|25.76,-80.19,2|America/New_York|24,28,32,30|16,21,26,24|14,18,23,21|52,57,51,51|22,29|4
key-west|Key West|24.56,-81.78,2|America/New_York|24,27,32,30|19,22,27,25|16,19,24,22|54,62,56,53|22,30|5
tampa|Tampa|27.95,-82.46,5|America/New_York|21,28,32,29|11,18,25,20|11,16,24,18|51,59,49,55|17,30|3
charleston|Charleston|32.78,-79.93,5|America/New_York|15,24,32,24|4,13,24,15|4,12,23,15|47,56,51,53|11,29|4
new-york|New York|40.71,-74.01,10|America/New_York|4,16,29,18|-3,7,21,11|-7,3,18,8|44,50,53,49|4,22|5
boston|Boston|42.36,-71.06,10|America/New_York|3,13,28,17|-5,5,19,8|-9,1,16,6|45,48,54,47|4,17|5
montreal|Montréal|45.50,-73.57,40|America/Toronto|-5,12,27,13|-13,2,17,4|-13,0,16,5|43,48,53,42|-|4
halifax|Halifax|44.65,-63.57,30|America/Halifax|0,9,23,14|-8,1,15,6|-7,0,15,7|39,44,50,46|2,17|5
la-paz-bcs|La Paz, Baja California|24.14,-110.31,20|America/Mazatlan|23,30,36,33|13,15,25,22|10,10,22,19|60,70,64,65|21,27|3
puerto-vallarta|Puerto Vallarta|20.65,-105.23,10|America/Mexico_City|27,29,33,33|17,19,25,24|16,17,24,23|58,66,52,58|25,29|3
cancun|Cancún|21.16,-86.85,10|America/Cancun|28,31,34,31|20,23,25,24|20,22,25,24|51,58,56,50|26,29|4
guatemala|Guatemala City|14.63,-90.51,1500|America/Guatemala|24,27,25,24|13,16,16,16|12,13,16,15|60,58,51,50|-|4
guanacaste|Ostional, Guanacaste|9.99,-85.70,10|America/Costa_Rica|34,35,32,31|22,24,24,23|20,22,24,24|62,60,47,44|27,29|4
liberia|Liberia, Guanacaste|10.63,-85.44,140|America/Costa_Rica|34,36,32,31|21,24,23,23|19,20,23,23|62,60,47,45|-|4
bocas|Bocas del Toro|9.34,-82.24,5|America/Panama|29,30,29,30|22,23,23,23|22,23,24,24|41,46,40,44|27,28|3
cartagena|Cartagena|10.39,-75.51,5|America/Bogota|31,32,32,31|23,26,26,25|22,25,26,25|58,54,53,48|27,29|4
quito|Quito|-0.18,-78.47,2850|America/Guayaquil|19,19,19,19|10,10,9,9|9,10,6,8|47,44,52,48|-|3
galapagos|Puerto Ayora, Galápagos|-0.74,-90.31,10|Pacific/Galapagos|29,30,26,25|22,23,20,19|22,23,20,19|48,56,46,46|25,23|3
lima|Lima|-12.05,-77.04,100|America/Lima|26,24,19,20|20,18,16,15|19,18,15,15|47,50,30,40|23,17|4
atacama|San Pedro de Atacama|-22.91,-68.20,2430|America/Santiago|25,23,20,24|10,6,0,5|4,-2,-9,-6|68,72,72,74|-|4
mendoza|Mendoza|-32.89,-68.84,770|America/Argentina/Mendoza|32,23,15,26|19,11,3,11|13,10,1,6|58,57,55,60|-|2
bariloche|Bariloche|-41.13,-71.31,800|America/Argentina/Salta|22,15,6,13|7,3,-1,2|5,3,-1,2|60,50,41,55|-|6
ushuaia|Ushuaia|-54.80,-68.30,20|America/Argentina/Ushuaia|14,10,4,10|5,2,-2,2|3,1,-3,0|41,36,30,43|9,5|5
buenos-aires|Buenos Aires|-34.60,-58.38,20|America/Argentina/Buenos_Aires|30,23,15,22|20,14,7,13|17,13,7,11|57,51,46,52|22,12|4
rio|Rio de Janeiro|-22.91,-43.17,10|America/Sao_Paulo|31,28,26,26|24,22,18,20|22,21,17,19|49,51,54,43|25,22|3
salvador|Salvador, Bahia|-12.97,-38.50,10|America/Bahia|30,29,26,28|24,24,22,23|23,23,20,21|55,48,46,53|28,25|3
recife|Recife|-8.05,-34.90,5|America/Recife|31,30,28,30|25,24,22,24|22,23,21,21|55,49,46,57|28,26|4
barbados|Bridgetown, Barbados|13.10,-59.61,10|America/Barbados|28,30,30,30|23,24,25,25|21,22,24,24|56,58,56,52|27,28|6
martinique|Fort-de-France, Martinique|14.60,-61.07,10|America/Martinique|28,30,30,31|22,24,25,24|21,22,24,24|53,55,52,50|27,28|5
bvi|Road Town, Virgin Islands|18.42,-64.62,10|America/Tortola|28,29,31,31|22,24,26,25|20,21,24,24|54,57,57,52|26,28|6
bermuda|Hamilton, Bermuda|32.30,-64.78,20|Atlantic/Bermuda|20,21,30,26|15,17,25,21|14,15,23,19|43,54,57,49|19,27|6
nassau|Nassau, Bahamas|25.05,-77.36,5|America/Nassau|25,28,32,30|17,20,25,23|17,19,24,22|53,60,55,52|24,29|4
mcmurdo|Ross Island|-77.85,166.67,20|Antarctica/McMurdo|0,-17,-22,-16|-6,-24,-30,-24|-10,-25,-32,-25|45,35,2,48|-|5
`;

/** A listed place: four values are those of January, April, July and October. */
export interface Place {
  id: string;
  name: string;
  latitude: number;
  longitude: number;
  altitude: number;
  timeZone: string;
  maxC: number[];
  minC: number[];
  dewPointC: number[];
  clearness: number[];
  /** January and July; null away from the sea. */
  seaC: number[] | null;
  wind: number;
}

const numbers = (text: string) => text.split(",").map(Number);

function read(line: string): Place {
  const [id, name, where, timeZone, maxC, minC, dewPointC, clearness, sea, wind] = line.split("|") as [
    string,
    ...string[],
  ];
  const [latitude, longitude, altitude] = numbers(where!) as [number, number, number];
  return {
    id,
    name: name!,
    latitude,
    longitude,
    altitude,
    timeZone: timeZone!,
    maxC: numbers(maxC!),
    minC: numbers(minC!),
    dewPointC: numbers(dewPointC!),
    clearness: numbers(clearness!).map((hundredths) => hundredths / 100),
    seaC: sea === "-" ? null : numbers(sea!),
    wind: Number(wind),
  };
}

/** All listed places, in no order that matters. */
export const PLACES: readonly Place[] = TABLE.trim().split("\n").map(read);
const BY_ID = new Map(PLACES.map((place) => [place.id, place]));

export const placeOf = (id: string): Place | undefined => BY_ID.get(id);

/** The listed place nearest to a point on the globe (great circle). */
export function nearestPlace(latitude: number, longitude: number): Place {
  const rad = Math.PI / 180;
  const closeness = (place: Place) =>
    Math.sin(latitude * rad) * Math.sin(place.latitude * rad) +
    Math.cos(latitude * rad) * Math.cos(place.latitude * rad) * Math.cos((longitude - place.longitude) * rad);
  return PLACES.reduce((best, place) => (closeness(place) > closeness(best) ? place : best));
}

/** The month's value (1 to 12) of a year known in January, April, July and October, through all four by harmonics. */
export function ofMonth([january, april, july, october]: readonly number[], month: number): number {
  const turn = ((month - 1) / 12) * 2 * Math.PI;
  const mean = (january! + april! + july! + october!) / 4;
  return (
    mean +
    ((january! - july!) / 2) * Math.cos(turn) +
    ((april! - october!) / 2) * Math.sin(turn) +
    ((january! - april! + july! - october!) / 4) * Math.cos(2 * turn)
  );
}

/** Sea temperature of a month: lags the air, coldest and warmest about a month after January and July. */
export function seaOfMonth([january, july]: readonly number[], month: number): number {
  const turn = ((month - 2) / 12) * 2 * Math.PI;
  const half = (january! - july!) / 2;
  // Through both given months: a month before the turn the cosine is cos 30°.
  return (january! + july!) / 2 + (half / Math.cos(Math.PI / 6)) * Math.cos(turn);
}
