package yemble.bench;

import java.util.Map;

/** The words that the corpus is made of, by what they are and in which language. */
final class CorpusWords {
  private CorpusWords() {}

  private static final Map<String, String> LISTS =
      Map.ofEntries(
          Map.entry(
              "given:en",
              "James,Olivia,Harry,Amelia,Jack,Isla,Kieran,Saoirse,Declan,Niamh,Priyanka,Rohan,Thomas,Emily,George,Freya,Alfie,Maisie,Desmond,Winifred,Cedric,Beryl,Oscar,Phoebe,Callum,Imogen,Nigel,Doreen,Ethan,Chloe,Mohammed,Aisha,Trevor,Gwendolyn,Rhys,Bronwen,Hamish,Morag,Liam,Zara"),
          Map.entry(
              "family:en",
              "Smith,Okafor,Patel,Jones,Featherstone,Williams,Brown,Ashworth,Taylor,Pemberton,Davies,Wilson,Hargreaves,Evans,Thomas,Kaur,Roberts,Johnson,Entwistle,Walker,Wright,Thistlewood,Robinson,Thompson,Blenkinsop,White,Hughes,Edwards,Gallagher,Hall,Green,Lewis,Braithwaite,Wood,Harris,Clarke,Sutcliffe,Jackson,Turner,Cattermole"),
          Map.entry(
              "given:de",
              "Jonas,Mia,Karl-Heinz,Ute,Torsten,Anneliese,Leon,Emma,Finn,Hannelore,Maximilian,Gundula,Björn,Sieglinde,Lukas,Lea,Günter,Waltraud,Stefan,Petra,Jürgen,Monika,Falk,Swantje,Detlef,Roswitha,Emil,Frieda,Matthias,Katharina,Oskar,Marlene,Volker,Heidrun,Tim,Jana,Ole,Wiebke,Holger,Ilse"),
          Map.entry(
              "family:de",
              "Müller,Schmidt,Schneider,Kowalczyk,Fischer,Weber,Brinkhaus,Meyer,Wagner,Becker,Oltmanns,Hoffmann,Schulz,Yıldız,Koch,Bauer,Richter,Klein,Wolf,Dünnebier,Schröder,Neumann,Schwarz,Zimmermann,Braun,Krüger,Hinrichsen,Hofmann,Lange,Petersen,Krause,Lehmann,Engelbrecht,Köhler,Maier,Thümmel,Busch,Kuhn,Windhorst,Vogt"),
          Map.entry(
              "given:fr",
              "Gabriel,Louise,Raphaël,Jade,Thibault,Océane,Hugo,Manon,Maxence,Clémence,Ludovic,Solène,Antoine,Camille,Baptiste,Margaux,Yanis,Inès,Loïc,Maëlle,Étienne,Geneviève,Théo,Léa,Corentin,Élodie,Nicolas,Sophie,Gaëtan,Bérénice,Paul,Chloé,Damien,Aurélie,Mathis,Lucie"),
          Map.entry(
              "family:fr",
              "Martin,Bernard,Thomas,Petitjean,Robert,Richard,Durand,Dubois,Moreau,Laurent,Simon,Michel,Lefebvre,Leroy,Roux,David,Bertrand,Morel,Fournier,Girard,Bonnet,Dupont,Lambert,Fontaine,Rousseau,Vincent,Guillemot,Lefèvre,Mercier,Blanchard,Guérin,Boyer,Charpentier,Chevalier,Delacroix,Le Goff"),
          Map.entry(
              "given:es",
              "Hugo,Lucía,Martín,Sofía,Mateo,María,Iker,Itziar,Pablo,Paula,Alejandro,Daniela,Adrián,Carla,Álvaro,Noa,Borja,Rocío,Javier,Carmen,Fernando,Pilar,Gonzalo,Inmaculada,Rubén,Yolanda,Sergio,Ainhoa,Emilio,Consuelo,Jordi,Montserrat,Unai,Leire,José Luis,Ana María"),
          Map.entry(
              "family:es",
              "García,Rodríguez,González,Fernández,López,Martínez,Sánchez,Pérez,Gómez,Martín,Jiménez,Ruiz,Hernández,Díaz,Moreno,Muñoz,Álvarez,Romero,Alonso,Gutiérrez,Navarro,Torres,Etxeberria,Domínguez,Vázquez,Ramos,Gil,Ramírez,Serrano,Blanco,Suárez,Ortega,Puigdollers,Castro,Iglesias,Zabaleta"),
          Map.entry(
              "given:it",
              "Leonardo,Sofia,Francesco,Aurora,Alessandro,Giulia,Lorenzo,Ginevra,Mattia,Beatrice,Gianluca,Ornella,Ettore,Loredana,Filippo,Viola,Tommaso,Ludovica,Gaetano,Concetta,Riccardo,Martina,Pasquale,Mariangela,Edoardo,Camilla,Nicolò,Benedetta,Dario,Silvana,Umberto,Patrizia"),
          Map.entry(
              "family:it",
              "Rossi,Russo,Ferrari,Esposito,Bianchi,Romano,Colombo,Ricci,Marino,Greco,Bruno,Gallo,Conti,De Luca,Mancini,Costa,Giordano,Rizzo,Lombardi,Moretti,Barbieri,Fontana,Santoro,Mariani,Rinaldi,Caruso,Ferrara,Galli,Martini,Leone,Pellegrini,D'Angelo,Bertolucci,Cattaneo"),
          Map.entry(
              "given:pt",
              "Francisco,Maria,João,Leonor,Afonso,Matilde,Tomás,Beatriz,Duarte,Carolina,Lourenço,Mafalda,Gonçalo,Inês,Rodrigo,Margarida,Vasco,Benedita,Nuno,Teresa,Hélder,Fátima,Rui,Graça,Joaquim,Lurdes,Tiago,Sónia,Bruno,Cátia"),
          Map.entry(
              "family:pt",
              "Silva,Santos,Ferreira,Pereira,Oliveira,Costa,Rodrigues,Martins,Jesus,Sousa,Fernandes,Gonçalves,Gomes,Lopes,Marques,Alves,Almeida,Ribeiro,Pinto,Carvalho,Teixeira,Moreira,Correia,Mendes,Nunes,Soares,Vieira,Monteiro,Cardoso,Rocha,Quaresma,Bettencourt"),
          Map.entry(
              "given:nl",
              "Daan,Emma,Bram,Julia,Sem,Mila,Lucas,Tess,Gijs,Fenna,Teun,Lotte,Jelle,Sietske,Maarten,Hanneke,Ruben,Femke,Wouter,Geertruida,Thijs,Anouk,Koen,Marloes,Joris,Saskia,Hidde,Nienke,Cor,Riet"),
          Map.entry(
              "family:nl",
              "Jong,Jansen,Vries,Berg,Bakker,Dijk,Visser,Janssen,Smit,Meijer,Boer,Mulder,Groot,Bos,Vos,Peters,Hendriks,Leeuwen,Dekker,Brouwer,Wit,Dijkstra,Smits,Graaf,Meer,Kok,Jacobs,Linden,Vermeulen,Hoekstra,Postma,Wiersma"),
          Map.entry(
              "given:pl",
              "Antoni,Zuzanna,Jakub,Julia,Jan,Zofia,Szymon,Hanna,Aleksander,Maja,Franciszek,Lena,Filip,Alicja,Mikołaj,Oliwia,Wojciech,Grażyna,Zdzisław,Bożena,Krzysztof,Halina,Sławomir,Jolanta,Bartosz,Agnieszka,Łukasz,Kinga,Mariusz,Iwona"),
          Map.entry(
              "family:pl",
              "Nowak,Kowalski,Wiśniewska,Wójcik,Kowalczyk,Kamińska,Lewandowski,Zielińska,Szymański,Woźniak,Dąbrowska,Kozłowski,Jankowska,Mazur,Kwiatkowski,Krawczyk,Kaczmarek,Piotrowska,Grabowski,Zając,Pawłowska,Michalski,Król,Wieczorek,Jabłońska,Wróbel,Majewski,Olszewska,Brzęczyszczykiewicz,Gołąb"),
          Map.entry(
              "given:tr",
              "Yusuf,Zeynep,Eymen,Elif,Mustafa,Defne,Ömer,Asel,Ahmet,Ayşe,Mehmet,Fatma,Kerem,Zehra,Emir,Nur,Hakan,Gülsüm,Orhan,Sevgi,Barış,Ebru,Serkan,Şule,Tuncay,Nermin"),
          Map.entry(
              "family:tr",
              "Yılmaz,Kaya,Demir,Çelik,Şahin,Yıldız,Yıldırım,Öztürk,Aydın,Özdemir,Arslan,Doğan,Kılıç,Aslan,Çetin,Kara,Koç,Kurt,Özkan,Şimşek,Polat,Korkmaz,Çakır,Erdoğan,Karabulut,Güneş"),
          Map.entry(
              "street:en",
              "High Street,Station Road,Church Lane,Victoria Avenue,Mill Close,Park Crescent,The Green,Orchard Way,Manor Drive,King's Court"),
          Map.entry(
              "street:de",
              "Hauptstraße,Bahnhofstr.,Gartenweg,Lindenallee,Am Markt,Birkenplatz,Kirchgasse,Rosenstr.,Ringstraße,Zum Hafen"),
          Map.entry(
              "street:fr",
              "rue de la République,avenue des Pins,place du Marché,impasse des Lilas,chemin des Vignes,boulevard du Port,allée des Tilleuls"),
          Map.entry(
              "street:es",
              "Calle Mayor,Avenida de la Constitución,Plaza de España,Calle del Sol,Paseo Marítimo,C/ San Juan,Travesía del Puerto"),
          Map.entry(
              "street:it",
              "Via Roma,Via del Mare,Corso Italia,Piazza Nuova,Viale dei Mille,Via Stretta,Vicolo Stretto"),
          Map.entry(
              "street:pt",
              "Rua Direita,Avenida da Liberdade,Travessa do Carmo,Largo da Igreja,Rua das Flores,Praça da República"),
          Map.entry(
              "street:nl",
              "Kerkstraat,Dorpsstraat,Molenweg,Julianalaan,Stationsplein,Prinsengracht,Havenkade,Beatrixlaan"),
          Map.entry(
              "street:pl",
              "ul. Polna,ul. Leśna,ul. Słoneczna,al. Brzozowa,ul. Krótka,os. Zielone,pl. Wolności,ul. Ogrodowa"),
          Map.entry(
              "street:tr",
              "Deniz Caddesi,Gül Sokak,İstiklal Cad.,Çınar Sok.,Cumhuriyet Mah. Lale Sok.,Bahçelievler Mah. 12. Sokak"),
          Map.entry(
              "city:en",
              "London,Leeds,Bristol,York,Kettering,Whitby,Manchester,Norwich,Cardiff,Stroud,Inverness,Luton,Hexham,Derby,Grimsby,Bath"),
          Map.entry(
              "city:de",
              "Berlin,Hamburg,München,Köln,Buxtehude,Leipzig,Bad Homburg,Ulm,Kiel,Erfurt,Celle,Fulda,Passau,Würzburg,Emden,Trier"),
          Map.entry(
              "city:fr",
              "Paris,Lyon,Marseille,Quimper,Nantes,Bayonne,Lille,Rennes,Annecy,Colmar,Niort,Toulouse,Dijon,Vannes"),
          Map.entry(
              "city:es",
              "Madrid,Barcelona,Sevilla,Valencia,Cuenca,Lugo,Bilbao,Málaga,Teruel,Girona,Huesca,Jaén,Vigo,Getafe"),
          Map.entry(
              "city:it",
              "Roma,Milano,Napoli,Torino,Lecce,Bergamo,Bologna,Firenze,Matera,Cuneo,Trento,Genova,Asti,Pescara"),
          Map.entry(
              "city:pt",
              "Lisboa,Porto,Braga,Coimbra,Beja,Leiria,Faro,Aveiro,Tomar,Chaves,Évora,Viseu,Lagos"),
          Map.entry(
              "city:nl",
              "Amsterdam,Rotterdam,Utrecht,Zutphen,Gouda,Breda,Leeuwarden,Hoorn,Delft,Assen,Sneek,Tilburg"),
          Map.entry(
              "city:pl",
              "Warszawa,Kraków,Gdańsk,Wrocław,Sopot,Łódź,Poznań,Zakopane,Opole,Elbląg,Toruń,Rzeszów,Bielsko-Biała"),
          Map.entry(
              "region:en",
              "Kent,Devon,Norfolk,North Yorkshire,Cumbria,Gwynedd,Fife,Surrey,Essex,Dorset"),
          Map.entry(
              "region:us",
              "California,Texas,Ohio,Nevada,Maine,New York,Oregon,Florida,Utah,Vermont"),
          Map.entry(
              "region:es",
              "Madrid,Barcelona,Sevilla,Asturias,Navarra,Lugo,Cuenca,Murcia,Cantabria"),
          Map.entry(
              "region:pl",
              "mazowieckie,małopolskie,śląskie,pomorskie,wielkopolskie,lubelskie,podlaskie"),
          Map.entry("countrycode", "DE,AT,CH,NL,FR,GB,US,PL,IT,BE,DK"),
          Map.entry(
              "nationality:en",
              "British,Irish,Polish,Indian,Nigerian,French,American,Italian,German,Pakistani"),
          Map.entry(
              "nationality:de",
              "deutsch,türkisch,polnisch,italienisch,österreichisch,syrisch,kroatisch"),
          Map.entry(
              "nationality:fr",
              "française,algérienne,portugaise,marocaine,belge,italienne,tunisienne"),
          Map.entry(
              "nationality:it",
              "italiana,rumena,albanese,francese,tedesca,svizzera,inglese,spagnola"),
          Map.entry("marital:en", "Single,Married,Divorced,Widowed,Separated,Civil partnership"),
          Map.entry("marital:de", "ledig,verheiratet,geschieden,verwitwet"),
          Map.entry("marital:es", "soltero,casada,divorciado,viuda,casado,soltera"),
          Map.entry("marital:pt", "solteiro,casada,divorciado,viúva,união de facto"),
          Map.entry(
              "ethnicity",
              "White British,Black African,Indian,Mixed,Chinese,White Irish,Pakistani,Other"),
          Map.entry(
              "religion:en", "None,Church of England,Muslim,Hindu,Catholic,Jewish,Sikh,Buddhist"),
          Map.entry("religion:pt", "católica,evangélica,nenhuma,muçulmana,judaica"),
          Map.entry(
              "job:fr",
              "infirmière,ingénieur,boulanger,professeur des écoles,chauffeur routier,cadre commercial,aide-soignante,comptable,sans emploi,agriculteur"),
          Map.entry(
              "job:es",
              "administrativo,camarera,ingeniera,conductor,enfermera,albañil,profesor,autónomo,dependienta,jubilado"),
          Map.entry(
              "job:nl",
              "bibliothecaris,conciërge,administratief medewerker,directeur,stagiair,hoofd collectie,schoonmaker"),
          Map.entry(
              "job:en",
              "Software Engineer,Nurse,Bus Driver,Accountant,Retired,Sales Assistant,Teacher,Plumber,Civil Servant,Graphic Designer,Warehouse Operative"),
          Map.entry(
              "job:de",
              "Sachbearbeiterin,Projektleiter,Lagerist,Softwareentwickler,Vertriebsmitarbeiter,Buchhalterin,Azubi,Teamleitung Einkauf,Werkstudent"),
          Map.entry(
              "job:it",
              "receptionist,cameriera,cuoco,facchino,direttore,governante,barista,manutentore"),
          Map.entry(
              "job:pt",
              "professora,pedreiro,reformado,enfermeira,motorista,empregado de balcão,advogada,desempregado"),
          Map.entry(
              "company:en",
              "Northfield Dairy Ltd,Bramble & Sons,Quayside Engineering plc,Ashdown Retail,Pike Logistics Ltd,Meadow Foods,Harcourt Legal LLP,Self-employed"),
          Map.entry(
              "company:de",
              "Nordlicht Logistik GmbH,Bäckerei Sonnentau,Weser Maschinenbau AG,Kontor Süd GmbH & Co. KG,Elbtal Druck,Sparverein Ost eG"),
          Map.entry(
              "company:fr",
              "Transports Belair SARL,Boulangerie du Canal,Atelier Novatis SAS,Mairie,Groupe Valombre,Clinique des Cèdres"),
          Map.entry(
              "company:es",
              "Construcciones Peñalba S.L.,Talleres Ría,Correduría Solana S.A.,Gestoría Llano,Seguros Faro S.L."),
          Map.entry(
              "company:it",
              "Pastificio Belmonte Srl,Trasporti Adria SpA,Studio Tecnico Ginestra,Panificio Alba Snc,Edil Nord Srl"),
          Map.entry(
              "company:nl",
              "Uitgeverij Zilvermeeuw,De Letterbak BV,Kade Boeken,Polderpers,Duinhoek en Zonen"),
          Map.entry("union:fr", "Syndicat des maîtres,Union des enseignants,SNE,Fédération école"),
          Map.entry(
              "union:de",
              "Gewerkschaft Metall Nord,Verband der Angestellten,keine,Gewerkschaft Dienste"),
          Map.entry(
              "political", "Greens,none,Liberals,Conservatives,Social Democrats,Left Alliance"),
          Map.entry("orientation", "heterossexual,bissexual,homossexual,não diz"),
          Map.entry("blood", "A+,A-,B+,0+,AB+,0-,B-,AB-"),
          Map.entry(
              "illness:en",
              "Asthma,Type 2 diabetes,Hypertension,Migraine,Fractured wrist,Depression,Eczema,Chest infection"),
          Map.entry(
              "illness:fr",
              "arachides,asthme,pollens,gluten,lait de vache,aucune connue,piqûres de guêpe"),
          Map.entry(
              "illness:es",
              "fractura de muñeca,latigazo cervical,lumbalgia,contusión,esguince,ansiedad"),
          Map.entry(
              "illness:pt",
              "diabetes,hipertensão,asma,artrose,depressão,insuficiência renal,epilepsia"),
          Map.entry(
              "drug",
              "Amoxicillin,Ibuprofen,Metformin,Omeprazole,Salbutamol,Ramipril,Sertraline,Paracetamol,Levothyroxine,Codeine phosphate"),
          Map.entry("answer:en", "Biscuit,blue,Mrs Twomey,Scarborough,chips,my nan,Rex,1987"),
          Map.entry("answer:fr", "Filou,la Baule,rouge,mamie Jo,Minou,crêpes,tennis"),
          Map.entry("answer:pt", "Bobi,Escola do Carmo,azul,avó Rosa,Nazaré,bacalhau"),
          Map.entry(
              "model", "Costa 1.6,Marea GT,Lumen,Vento 2,Kombi L,Faro City,Alba 500,Norte XL"),
          Map.entry(
              "thing:en",
              "Harbour Wing,Room North,Main Hall,Elm Ward,Market Square,Riverside,Old Mill,Castle Gate"),
          Map.entry(
              "thing:de", "Lager Nord,Zentrallager,Halle 3,Außenlager West,Depot Hafen,Rampe Süd"),
          Map.entry(
              "thing:fr", "Salle polyvalente,Gymnase,Atelier bois,Amphi Nord,Labo de chimie,CDI"),
          Map.entry("thing:nl", "begane grond,leeszaal,jeugdafdeling,hal,studiezaal,kelder"),
          Map.entry(
              "thing:pt",
              "Piscina Municipal,Jardim do Castelo,Biblioteca,Mercado Novo,Pavilhão Sul"),
          Map.entry(
              "thing:pl", "Magazyn Główny,Sortownia Wschód,Punkt Rynek,Centrum Zachód,Baza Port"));

  private static final Map<String, String> SENTENCES =
      Map.ofEntries(
          Map.entry(
              "note:en",
              "Please ring before delivery, {full:en} is hard of hearing.|Paid back the money I lent you in May|Rent for March, flat of {full:en}|He asked for the statement to be sent to his mother|Customer complained that nobody called back on {phone:GB}|Invoice settled late, see letter from last week"),
          Map.entry(
              "note:de",
              "Bitte bei {full:de} im zweiten Stock abgeben.|Paket nur an Frau {family:de} persönlich übergeben|Der Kunde war mit der Lieferung nicht zufrieden und rief zweimal an|Sehr geehrte Damen und Herren, ich bewerbe mich auf die Stelle als Fachkraft|Super Qualität, würde ich jederzeit wieder kaufen|Bitte unter {phone:DE} anrufen, wenn niemand öffnet"),
          Map.entry(
              "note:fr",
              "Un trimestre en demi-teinte, {given:fr} doit se ressaisir.|Bon travail mais trop de bavardages avec son voisin|Élève sérieuse et appliquée, à encourager|{given:fr} participe peu en classe, résultats fragiles"),
          Map.entry(
              "note:es",
              "El asegurado {full:es} circulaba por la derecha cuando el otro coche no respetó el stop.|La clienta llamó muy nerviosa y pide que le devuelvan la llamada|Daños en la puerta trasera, avisar al {phone:ES}|Gotera en el techo del vecino de arriba según nos cuenta"),
          Map.entry(
              "note:nl",
              "Mevrouw heeft hulp nodig bij het lezen van de brieven.|Belt altijd op dinsdag, vraag naar {full:nl}.|Boete kwijtgescholden na gesprek met zijn vader|Graag grote letters, ziet slecht"),
          Map.entry(
              "note:it",
              "La signora {full:it} viaggia con un cane piccolo.|Chiede una camera tranquilla lontana dall'ascensore|Festeggiano l'anniversario, preparare fiori in camera|Personale gentilissimo ma colazione da migliorare|Richiamare al {phone:IT} per la navetta"),
          Map.entry(
              "note:pt",
              "Venho por este meio expor que o meu vizinho {full:pt} faz obras sem licença.|Solicito a isenção da taxa por falta de rendimentos|A rua onde moro está sem iluminação há três semanas|Contactar pelo número {phone:PT} depois das 18 horas"),
          Map.entry(
              "note:pl",
              "Proszę zostawić u sąsiadki, pani {family:pl} pod dziewiątką.|Kurier ma zadzwonić pod {phone:PL} przed przyjazdem|Paczka uszkodzona, klient odmówił przyjęcia|Domofon nie działa, dzwonić do drzwi"),
          Map.entry(
              "note:tr",
              "Paketim üç gündür gelmedi, {given:tr} Bey ile görüştüm.|Kurye kapıyı çalmadan gitmiş, çok kaba davrandı|Lütfen beni {phone:TR} numarasından arayın|Yanlış adrese teslim edilmiş, komşum söyledi"),
          Map.entry(
              "healthnote:en",
              "Patient reports chest pain after climbing stairs.|Follow up after surgery, wound healing well|Blood pressure raised, advised to reduce salt|Persistent cough for three weeks, no fever"),
          Map.entry(
              "healthnote:de",
              "Patient klagt über Rückenschmerzen seit Montag.|Nach der Operation noch drei Wochen krank|Verdacht auf Grippe, Fieber bis 39 Grad"),
          Map.entry(
              "healthnote:fr",
              "Fièvre depuis hier soir|Rendez-vous chez le médecin pour sa toux|Maux de tête et nausées, certificat du médecin|Gastro, retour prévu lundi"),
          Map.entry(
              "healthnote:it",
              "Idoneo con limitazioni, non sollevare pesi per mal di schiena|Visita del medico competente: pressione alta|Gravidanza, esente dal turno di notte"),
          Map.entry(
              "healthnote:pt",
              "Doente com dor crónica, precisa de apoio domiciliário|Em tratamento de hemodiálise três vezes por semana|Recuperação lenta após a cirurgia à anca"),
          Map.entry(
              "product:en",
              "Steel shelf bracket, zinc plated, pack of four|Keep out of the reach of children. Read all of the leaflet carefully|Store below 25 degrees in the original package|Cotton bandage, 10 cm wide, sterile"),
          Map.entry(
              "product:de",
              "Edelstahl Topf mit Glasdeckel 24 cm|Wandfarbe weiß matt 10 Liter|Akku-Bohrschrauber 18 V|LED Leuchtmittel E27 warmweiß|Gartenschlauch 20 m verstärkt"),
          Map.entry(
              "product:es",
              "Responsabilidad civil|Asistencia en viaje|Robo y expoliación|Daños por agua|Lunas y cristales"),
          Map.entry(
              "productlong:de",
              "Robustes Werkzeug aus gehärtetem Stahl für den täglichen Einsatz in Haus und Garten.|Das Modell überzeugt durch geringes Gewicht und lange Laufzeit des Akkus.|Einführung in die Grundlagen der Tabellenkalkulation mit vielen Übungen."),
          Map.entry(
              "productlong:fr",
              "Ce cours présente les bases de la géométrie et du calcul littéral.|Initiation aux méthodes de laboratoire et à la rédaction de rapports."),
          Map.entry(
              "productlong:es",
              "Quedan cubiertos los daños materiales causados por incendio, rayo o explosión.|El asegurador abonará la indemnización en el plazo máximo de cuarenta días."),
          Map.entry(
              "productlong:it",
              "Camera luminosa con balcone e vista sul giardino interno.|Suite su due livelli con angolo cottura e aria condizionata."),
          Map.entry(
              "productlong:nl",
              "Een spannend verhaal over een eiland waar niemand de weg naar huis kent.|Overzicht van de geschiedenis van dijken en polders met veel kaarten."),
          Map.entry(
              "title:nl",
              "Het lege eiland|Winter aan zee|De laatste veerboot|Koken met wier|Stilte in de polder|Reis naar het noorden"),
          Map.entry(
              "course:fr",
              "Mathématiques renforcées|Histoire des arts|Anglais débutant|Chimie organique|Éducation physique"),
          Map.entry(
              "course:de",
              "Brandschutz Grundlagen|Tabellen für Fortgeschrittene|Erste Hilfe im Betrieb|Führen auf Distanz"),
          Map.entry(
              "template:nl",
              "Beste lezer, uw boek ligt klaar aan de balie.|Uw reservering vervalt over drie dagen, met vriendelijke groet."),
          Map.entry("street2:en", "Flat 3|Rear cottage|Unit 12|Rose House|Apartment 4B"),
          Map.entry(
              "setting",
              "true|30|/var/lib/catalogue|nl_NL|0.75|https://catalogue.example/api|off"));

  /** The entries of a list. */
  static String[] list(String name) {
    String list = LISTS.get(name);
    if (list != null) {
      return list.split(",");
    }
    String sentences = SENTENCES.get(name);
    if (sentences == null) {
      throw new IllegalArgumentException("no such list: " + name);
    }
    return sentences.split("\\|");
  }

  static boolean has(String name) {
    return LISTS.containsKey(name) || SENTENCES.containsKey(name);
  }
}
