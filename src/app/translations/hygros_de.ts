<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="de" sourcelanguage="en">
 <context>
  <name>window</name>
  <message>
   <source>Add</source>
   <translation>Hinzufügen</translation>
  </message>
  <message>
   <source>What to add</source>
   <translation>Was hinzugefügt werden soll</translation>
  </message>
  <message>
   <source>search: mist, lamp, dusk …</source>
   <translation>suchen: Nebel, Lampe, Abend …</translation>
  </message>
  <message>
   <source>Recipes, as they would look here</source>
   <translation>Rezepte, wie sie hier aussähen</translation>
  </message>
  <message>
   <source>Nothing of that name. Try another word.</source>
   <translation>Nichts mit diesem Namen. Ein anderes Wort versuchen.</translation>
  </message>
  <message>
   <source>Your own</source>
   <translation>Eigene</translation>
  </message>
  <message>
   <source>%1 elements</source>
   <translation>%1 Elemente</translation>
  </message>
  <message>
   <source>Duplicate </source>
   <translation>Duplizieren: </translation>
  </message>
  <message>
   <source>there can be only one of it</source>
   <translation>davon kann es nur eines geben</translation>
  </message>
  <message>
   <source>Remove </source>
   <translation>Entfernen: </translation>
  </message>
  <message>
   <source>Paste </source>
   <translation>Einfügen: </translation>
  </message>
  <message>
   <source>Paste %1 elements</source>
   <translation>%1 Elemente einfügen</translation>
  </message>
  <message>
   <source>the project has it already, and there can be only one of it</source>
   <translation>das Projekt hat es schon, und davon kann es nur eines geben</translation>
  </message>
  <message>
   <source>%1 of %2 were pasted; of the others there can be only one, and the project has it.</source>
   <translation>%1 von %2 wurden eingefügt; von den anderen kann es nur eines geben, und das Projekt hat es.</translation>
  </message>
  <message>
   <source>Group </source>
   <translation>Gruppieren: </translation>
  </message>
  <message>
   <source>Dissolve the group</source>
   <translation>Gruppe auflösen</translation>
  </message>
  <message>
   <source>Rename</source>
   <translation>Umbenennen</translation>
  </message>
  <message>
   <source>Move </source>
   <translation>Verschieben: </translation>
  </message>
  <message>
   <source>Mute </source>
   <translation>Stumm: </translation>
  </message>
  <message>
   <source>Unmute </source>
   <translation>Nicht mehr stumm: </translation>
  </message>
  <message>
   <source>Solo </source>
   <translation>Solo: </translation>
  </message>
  <message>
   <source>End solo of </source>
   <translation>Solo beenden: </translation>
  </message>
  <message>
   <source>%1 of %2 elements</source>
   <translation>%1 von %2 Elementen</translation>
  </message>
  <message>
   <source>Reset </source>
   <translation>Zurücksetzen: </translation>
  </message>
  <message>
   <source>New elements of the kind “%1” begin like “%2” from now on.</source>
   <translation>Neue Elemente der Art „%1“ beginnen von nun an wie „%2“.</translation>
  </message>
  <message>
   <source>Move %1 elements</source>
   <translation>%1 Elemente verschieben</translation>
  </message>
  <message>
   <source>Baked frames</source>
   <translation>Gebackene Bilder</translation>
  </message>
  <message>
   <source>Purge all</source>
   <translation>Alles löschen</translation>
  </message>
  <message>
   <source>Close</source>
   <translation>Schließen</translation>
  </message>
  <message>
   <source>%1 frames</source>
   <translation>%1 Bilder</translation>
  </message>
  <message>
   <source>%1 MB</source>
   <translation>%1 MB</translation>
  </message>
  <message>
   <source>not in this project any more</source>
   <translation>nicht mehr in diesem Projekt</translation>
  </message>
  <message>
   <source>%1 fresh</source>
   <translation>%1 frisch</translation>
  </message>
  <message>
   <source>, %1 stale</source>
   <translation>, %1 veraltet</translation>
  </message>
  <message>
   <source>, %1 missing</source>
   <translation>, %1 fehlen</translation>
  </message>
  <message>
   <source>Purge</source>
   <translation>Löschen</translation>
  </message>
  <message>
   <source>Nothing is baked. Add a Wind and Tracers, then Bake on the Tracers' card.</source>
   <translation>Nichts ist gebacken. Wind und Leitpunkte hinzufügen, dann auf deren Karte backen.</translation>
  </message>
  <message>
   <source>%1 MB of at most %2 GB, in %3</source>
   <translation>%1 MB von höchstens %2 GB, in %3</translation>
  </message>
  <message>
   <source>Baking: </source>
   <translation>Backen: </translation>
  </message>
  <message>
   <source>Baked: %1 of %2 frames</source>
   <translation>Gebacken: %1 von %2 Bildern</translation>
  </message>
  <message>
   <source>, %1 MB</source>
   <translation>, %1 MB</translation>
  </message>
  <message>
   <source>; %1 stale: %2</source>
   <translation>; %1 veraltet: %2</translation>
  </message>
  <message>
   <source>Baking </source>
   <translation>Backen: </translation>
  </message>
  <message>
   <source>: all frames are fresh.</source>
   <translation>: alle Bilder sind frisch.</translation>
  </message>
  <message>
   <source>When it gets denser</source>
   <translation>Wenn es dichter wird</translation>
  </message>
  <message>
   <source>What a ball of it becomes when it gets twice as dense.
Keep albedo: scattering and absorption grow together, it only hides more.
Keep scattering: only absorption grows, it turns dark.
Free: each has its own number and colour; here its scattering is doubled.</source>
   <translation>Was aus einer Kugel davon wird, die doppelt so dicht wird.
Albedo behalten: Streuung und Absorption wachsen gemeinsam, sie verdeckt nur mehr.
Streuung behalten: nur die Absorption wächst, sie wird dunkel.
Frei: jede hat Zahl und Farbe für sich; hier ist die Streuung verdoppelt.</translation>
  </message>
  <message>
   <source>a ball of it</source>
   <translation>eine Kugel davon</translation>
  </message>
  <message>
   <source>twice as dense, keeping</source>
   <translation>doppelt so dicht, behält</translation>
  </message>
  <message>
   <source>albedo</source>
   <translation>Albedo</translation>
  </message>
  <message>
   <source>scattering</source>
   <translation>Streuung</translation>
  </message>
  <message>
   <source>nothing</source>
   <translation>nichts</translation>
  </message>
  <message>
   <source>scatters %1   absorbs %2</source>
   <translation>streut %1   verschluckt %2</translation>
  </message>
  <message>
   <source>A setting cannot be crossed with itself.</source>
   <translation>Eine Einstellung lässt sich nicht mit sich selbst kreuzen.</translation>
  </message>
  <message>
   <source>A bracket holds </source>
   <translation>Eine Reihe fasst </translation>
  </message>
  <message>
   <source> tiles: take fewer steps.</source>
   <translation> Kacheln: weniger Schritte nehmen.</translation>
  </message>
  <message>
   <source>There is not enough memory for so many tiles; take fewer steps.</source>
   <translation>Der Speicher reicht nicht für so viele Kacheln; weniger Schritte nehmen.</translation>
  </message>
  <message>
   <source>Bracket</source>
   <translation>Reihe</translation>
  </message>
  <message>
   <source>one setting alone</source>
   <translation>eine Einstellung allein</translation>
  </message>
  <message>
   <source>Step</source>
   <translation>Stufen</translation>
  </message>
  <message>
   <source>crossed with</source>
   <translation>gekreuzt mit</translation>
  </message>
  <message>
   <source>Take this</source>
   <translation>Dies nehmen</translation>
  </message>
  <message>
   <source>Puts its value into the project; Undo takes that back (Enter)</source>
   <translation>Setzt den Wert ins Projekt; Rückgängig nimmt ihn zurück (Enter)</translation>
  </message>
  <message>
   <source>Enlarge</source>
   <translation>Vergrößern</translation>
  </message>
  <message>
   <source>Draws it as large as fits (Space, or a double click)</source>
   <translation>Zeichnet sie so groß, wie es passt (Leertaste oder Doppelklick)</translation>
  </message>
  <message>
   <source>Write the sheet…</source>
   <translation>Bogen schreiben…</translation>
  </message>
  <message>
   <source>All tiles with their values as one picture</source>
   <translation>Alle Kacheln mit ihren Werten als ein Bild</translation>
  </message>
  <message>
   <source>Back to the Picture</source>
   <translation>Zurück zum Bild</translation>
  </message>
  <message>
   <source>Setting to step</source>
   <translation>Einstellung, die gestuft wird</translation>
  </message>
  <message>
   <source>Setting to cross it with</source>
   <translation>Einstellung, mit der gekreuzt wird</translation>
  </message>
  <message>
   <source>How the values lie</source>
   <translation>Wie die Werte liegen</translation>
  </message>
  <message>
   <source>From</source>
   <translation>Von</translation>
  </message>
  <message>
   <source>First value</source>
   <translation>Erster Wert</translation>
  </message>
  <message>
   <source>To</source>
   <translation>Bis</translation>
  </message>
  <message>
   <source>Last value</source>
   <translation>Letzter Wert</translation>
  </message>
  <message>
   <source>How many values</source>
   <translation>Wie viele Werte</translation>
  </message>
  <message>
   <source> steps</source>
   <translation> Schritte</translation>
  </message>
  <message>
   <source>from</source>
   <translation>von</translation>
  </message>
  <message>
   <source>to</source>
   <translation>bis</translation>
  </message>
  <message>
   <source>evenly</source>
   <translation>gleichmäßig</translation>
  </message>
  <message>
   <source>by factors</source>
   <translation>nach Faktoren</translation>
  </message>
  <message>
   <source>by stops</source>
   <translation>nach Blenden</translation>
  </message>
  <message>
   <source>by frames</source>
   <translation>nach Bildern</translation>
  </message>
  <message>
   <source>all there are</source>
   <translation>alle, die es gibt</translation>
  </message>
  <message>
   <source>All tiles</source>
   <translation>Alle Kacheln</translation>
  </message>
  <message>
   <source>%1 pictures · %2 samples</source>
   <translation>%1 Bilder · %2 Samples</translation>
  </message>
  <message>
   <source>%1 pictures · %2 %</source>
   <translation>%1 Bilder · %2 %</translation>
  </message>
  <message>
   <source>   chosen: </source>
   <translation>   gewählt: </translation>
  </message>
  <message>
   <source>, as it is now</source>
   <translation>, wie es jetzt ist</translation>
  </message>
  <message>
   <source>Write the sheet</source>
   <translation>Bogen schreiben</translation>
  </message>
  <message>
   <source>Pictures (*.png)</source>
   <translation>Bilder (*.png)</translation>
  </message>
  <message>
   <source>now</source>
   <translation>jetzt</translation>
  </message>
  <message>
   <source>Show these settings</source>
   <translation>Diese Einstellungen zeigen</translation>
  </message>
  <message>
   <source>Fold these settings away</source>
   <translation>Diese Einstellungen einklappen</translation>
  </message>
  <message>
   <source>Choose its new place…</source>
   <translation>Neuen Ort wählen…</translation>
  </message>
  <message>
   <source>Other missing files of the same folder are found along with it.</source>
   <translation>Andere fehlende Dateien desselben Ordners werden mit ihr gefunden.</translation>
  </message>
  <message>
   <source>Stop the bake</source>
   <translation>Backen anhalten</translation>
  </message>
  <message>
   <source>Bake</source>
   <translation>Backen</translation>
  </message>
  <message>
   <source>Where is </source>
   <translation>Wo ist </translation>
  </message>
  <message>
   <source>Find </source>
   <translation>Gefunden: </translation>
  </message>
  <message>
   <source>%1 files were found there.</source>
   <translation>%1 Dateien wurden dort gefunden.</translation>
  </message>
  <message>
   <source>solo</source>
   <translation>solo</translation>
  </message>
  <message>
   <source>muted</source>
   <translation>stumm</translation>
  </message>
  <message>
   <source>mute</source>
   <translation>stumm</translation>
  </message>
  <message>
   <source>Export as OpenVDB</source>
   <translation>Als OpenVDB exportieren</translation>
  </message>
  <message>
   <source>Size of the voxels; as it is shown now they are this large:</source>
   <translation>Größe der Voxel; wie es jetzt gezeigt wird, sind sie so groß:</translation>
  </message>
  <message>
   <source>Export the plume; #### stands for the number of each baked frame</source>
   <translation>Die Fahne exportieren; #### steht für die Nummer jedes gebackenen Bildes</translation>
  </message>
  <message>
   <source>Export the volume</source>
   <translation>Das Volumen exportieren</translation>
  </message>
  <message>
   <source>Writing </source>
   <translation>Schreiben: </translation>
  </message>
  <message>
   <source>Written: </source>
   <translation>Geschrieben: </translation>
  </message>
  <message>
   <source>Export what lies: a mesh or a height map</source>
   <translation>Was liegt, exportieren: ein Netz oder eine Höhenkarte</translation>
  </message>
  <message>
   <source>Meshes (*.ply *.obj *.glb);;Height map (*.exr)</source>
   <translation>Netze (*.ply *.obj *.glb);;Höhenkarte (*.exr)</translation>
  </message>
  <message>
   <source>Export the points of this frame</source>
   <translation>Die Punkte dieses Bildes exportieren</translation>
  </message>
  <message>
   <source>OpenVDB points (*.vdb);;PLY points (*.ply)</source>
   <translation>OpenVDB-Punkte (*.vdb);;PLY-Punkte (*.ply)</translation>
  </message>
  <message>
   <source>Export the water; #### stands for the number of each frame</source>
   <translation>Das Wasser exportieren; #### steht für die Nummer jedes Bildes</translation>
  </message>
  <message>
   <source>Surface (*.ply *.obj *.glb);;Maps (*.exr)</source>
   <translation>Oberfläche (*.ply *.obj *.glb);;Karten (*.exr)</translation>
  </message>
  <message>
   <source>Frame </source>
   <translation>Bild </translation>
  </message>
  <message>
   <source>Lamps and camera of a file</source>
   <translation>Lampen und Kamera einer Datei</translation>
  </message>
  <message>
   <source>%1 of the file's lamps are infinitely far: set the sun instead.</source>
   <translation>%1 der Lampen der Datei sind unendlich fern: dafür die Sonne einstellen.</translation>
  </message>
  <message>
   <source>All its lamps were taken before.</source>
   <translation>Alle ihre Lampen wurden schon übernommen.</translation>
  </message>
  <message>
   <source>Near and far from the set</source>
   <translation>Nah und fern vom Set</translation>
  </message>
  <message>
   <source>Takes the picture's depth: a tenth of it lies nearer than near, nearly all nearer than far.</source>
   <translation>Nimmt die Tiefe des Bildes: ein Zehntel liegt näher als nah, fast alles näher als fern.</translation>
  </message>
  <message>
   <source>Steps it through the frames and keeps each on disk; goes on where it stopped. While it bakes: stops it.</source>
   <translation>Rechnet sie Bild für Bild und behält jedes auf der Platte; geht weiter, wo es aufhörte. Während des Backens: hält es an.</translation>
  </message>
  <message>
   <source>Removes its baked frames from the disk.</source>
   <translation>Entfernt ihre gebackenen Bilder von der Platte.</translation>
  </message>
  <message>
   <source>Join overlapping plumes</source>
   <translation>Überlappende Fahnen vereinen</translation>
  </message>
  <message>
   <source>Makes one plume of this one and those whose boxes overlap it: what feeds and rides them goes with it.</source>
   <translation>Macht eine Fahne aus dieser und denen, deren Quader sie überlappen: was sie speist und auf ihnen fährt, geht mit.</translation>
  </message>
  <message>
   <source>Join plumes</source>
   <translation>Fahnen vereinen</translation>
  </message>
  <message>
   <source>Export as OpenVDB…</source>
   <translation>Als OpenVDB exportieren…</translation>
  </message>
  <message>
   <source>Writes it as it stands here, combinations and tints included, on an even lattice with voxels of your choice.</source>
   <translation>Schreibt es, wie es hier steht, mit Verknüpfungen und Tönungen, auf ein gleichmäßiges Gitter mit Voxeln nach Wahl.</translation>
  </message>
  <message>
   <source>Export surface…</source>
   <translation>Oberfläche exportieren…</translation>
  </message>
  <message>
   <source>Writes 60 m of it ahead of the camera as a mesh (.ply, .obj, .glb) or as maps (.exr), for each frame.</source>
   <translation>Schreibt 60 m davon vor der Kamera als Netz (.ply, .obj, .glb) oder als Karten (.exr), für jedes Bild.</translation>
  </message>
  <message>
   <source>Export as mesh…</source>
   <translation>Als Netz exportieren…</translation>
  </message>
  <message>
   <source>Writes what lies (snow, puddles) as a mesh (.ply, .obj, .glb), or as a map of heights (.exr).</source>
   <translation>Schreibt, was liegt (Schnee, Pfützen), als Netz (.ply, .obj, .glb) oder als Karte der Höhen (.exr).</translation>
  </message>
  <message>
   <source>Export as points…</source>
   <translation>Als Punkte exportieren…</translation>
  </message>
  <message>
   <source>Writes where they are at this frame as OpenVDB points or PLY, with speeds and sizes.</source>
   <translation>Schreibt, wo sie bei diesem Bild sind, als OpenVDB-Punkte oder PLY, mit Geschwindigkeiten und Größen.</translation>
  </message>
  <message>
   <source>Scale by a known length…</source>
   <translation>Nach bekannter Länge skalieren…</translation>
  </message>
  <message>
   <source>Click two points in the Picture and type how far they are apart.</source>
   <translation>Zwei Punkte im Bild anklicken und eingeben, wie weit sie auseinander sind.</translation>
  </message>
  <message>
   <source>Take its lamps and camera</source>
   <translation>Lampen und Kamera übernehmen</translation>
  </message>
  <message>
   <source>Makes lamps of those in the file and looks through its first camera; they go with their parts of the set.</source>
   <translation>Macht aus denen der Datei Lampen und blickt durch ihre erste Kamera; sie gehen mit ihren Teilen des Sets.</translation>
  </message>
  <message>
   <source>Place by a click…</source>
   <translation>Mit Klick stellen…</translation>
  </message>
  <message>
   <source>Click a surface in the Picture: the lamp stands over it, or a little before it where it is a wall.</source>
   <translation>Eine Fläche im Bild anklicken: die Lampe steht darüber, oder etwas davor, wo es eine Wand ist.</translation>
  </message>
  <message>
   <source>Aim by a click…</source>
   <translation>Mit Klick richten…</translation>
  </message>
  <message>
   <source>Click what it is to shine at.</source>
   <translation>Anklicken, worauf sie scheinen soll.</translation>
  </message>
  <message>
   <source>Strike by two clicks…</source>
   <translation>Mit zwei Klicks einschlagen…</translation>
  </message>
  <message>
   <source>Click in the Picture where it strikes, then where it comes from.</source>
   <translation>Im Bild anklicken, wo er einschlägt, dann, woher er kommt.</translation>
  </message>
  <message>
   <source>Set down by a click…</source>
   <translation>Mit Klick setzen…</translation>
  </message>
  <message>
   <source>Click in the Picture what the water stands on (a Pool) or the line that it is to reach (Open water).</source>
   <translation>Im Bild anklicken, worauf das Wasser steht (ein Becken) oder die Linie, die es erreichen soll (offenes Wasser).</translation>
  </message>
  <message>
   <source>Focus by a click…</source>
   <translation>Mit Klick scharf stellen…</translation>
  </message>
  <message>
   <source>Click in the Picture what is to be sharp; turns depth of field on.</source>
   <translation>Im Bild anklicken, was scharf sein soll; schaltet die Schärfentiefe ein.</translation>
  </message>
  <message>
   <source>Horizon and ground…</source>
   <translation>Horizont und Boden…</translation>
  </message>
  <message>
   <source>Drag the horizon's line in the Picture to where the plate's is, and the ground's mark to a place that lies on the ground.</source>
   <translation>Die Horizontlinie im Bild dorthin ziehen, wo die der Plate ist, und die Bodenmarke an einen Ort, der am Boden liegt.</translation>
  </message>
  <message>
   <source>How far one sees from the camera, level along its heading, through all the air: contrast is 5 % there.</source>
   <translation>Wie weit man von der Kamera aus sieht, waagerecht in ihrer Richtung, durch alle Luft: dort ist der Kontrast 5 %.</translation>
  </message>
  <message>
   <source>+ add</source>
   <translation>+ hinzu</translation>
  </message>
  <message>
   <source>Find a setting</source>
   <translation>Eine Einstellung finden</translation>
  </message>
  <message>
   <source>find a setting</source>
   <translation>Einstellung finden</translation>
  </message>
  <message>
   <source>changed</source>
   <translation>geändert</translation>
  </message>
  <message>
   <source>Only settings that differ from those of a new element.</source>
   <translation>Nur Einstellungen, die anders sind als bei einem neuen Element.</translation>
  </message>
  <message>
   <source>Recipes…</source>
   <translation>Rezepte…</translation>
  </message>
  <message>
   <source>Whole set-ups to begin with. Resting on one shows it in the Picture before it is taken.</source>
   <translation>Ganze Zusammenstellungen für den Anfang. Ruht man auf einer, zeigt das Bild sie, bevor sie übernommen wird.</translation>
  </message>
  <message>
   <source>Fit to the set's depth</source>
   <translation>An die Tiefe des Sets anpassen</translation>
  </message>
  <message>
   <source>Multiplies a recipe's distances so that they suit the depth of what the Picture shows.</source>
   <translation>Multipliziert die Abstände eines Rezepts, sodass sie zur Tiefe dessen passen, was das Bild zeigt.</translation>
  </message>
  <message>
   <source>Matter before the camera</source>
   <translation>Stoff vor der Kamera</translation>
  </message>
  <message>
   <source>&lt;img src="data:image/png;base64,%1"&gt;&lt;br&gt;%2</source>
   <translation>&lt;img src="data:image/png;base64,%1"&gt;&lt;br&gt;%2</translation>
  </message>
  <message>
   <source>Fit to the set's depth: </source>
   <translation>An die Tiefe des Sets anpassen: </translation>
  </message>
  <message>
   <source>sees over 100 km</source>
   <translation>Sicht über 100 km</translation>
  </message>
  <message>
   <source>sees </source>
   <translation>Sicht </translation>
  </message>
  <message>
   <source>The air is clear. Add a haze to see the distance recede, or a fog bank to lie on the ground.</source>
   <translation>Die Luft ist klar. Einen Dunst hinzufügen, damit die Ferne zurückweicht, oder eine Nebelbank, die auf dem Boden liegt.</translation>
  </message>
  <message>
   <source>It is dark. Add the sun, or a spot lamp.</source>
   <translation>Es ist dunkel. Die Sonne hinzufügen oder eine Spotlampe.</translation>
  </message>
  <message>
   <source>Nothing burns. Add a plume and a feed for it, or one of the fires that Insert shows.</source>
   <translation>Nichts brennt. Eine Fahne und eine Speisung dafür hinzufügen, oder eines der Feuer unter Hinzufügen.</translation>
  </message>
  <message>
   <source>Nothing here yet.</source>
   <translation>Hier ist noch nichts.</translation>
  </message>
  <message>
   <source>1 element</source>
   <translation>1 Element</translation>
  </message>
  <message>
   <source> · %1 silent</source>
   <translation> · %1 still</translation>
  </message>
  <message>
   <source>Import a </source>
   <translation>Importieren: </translation>
  </message>
  <message>
   <source> %1 elements</source>
   <translation> %1 Elemente</translation>
  </message>
  <message>
   <source>Reset “%1” to %2</source>
   <translation>„%1“ auf %2 zurücksetzen</translation>
  </message>
  <message>
   <source>Copy its path: </source>
   <translation>Pfad kopieren: </translation>
  </message>
  <message>
   <source>Bracket it…</source>
   <translation>Als Reihe…</translation>
  </message>
  <message>
   <source>Duplicate</source>
   <translation>Duplizieren</translation>
  </message>
  <message>
   <source>Copy</source>
   <translation>Kopieren</translation>
  </message>
  <message>
   <source>Paste</source>
   <translation>Einfügen</translation>
  </message>
  <message>
   <source>Group…</source>
   <translation>Gruppieren…</translation>
  </message>
  <message>
   <source>Group</source>
   <translation>Gruppe</translation>
  </message>
  <message>
   <source>Name of the group</source>
   <translation>Name der Gruppe</translation>
  </message>
  <message>
   <source>Save as recipe…</source>
   <translation>Als Rezept sichern…</translation>
  </message>
  <message>
   <source>Reset all settings</source>
   <translation>Alle Einstellungen zurücksetzen</translation>
  </message>
  <message>
   <source> of</source>
   <translation> von</translation>
  </message>
  <message>
   <source>New %1 elements begin like this</source>
   <translation>Neue %1-Elemente beginnen so</translation>
  </message>
  <message>
   <source>New %1 elements begin as at first</source>
   <translation>Neue %1-Elemente beginnen wie anfangs</translation>
  </message>
  <message>
   <source>Remove</source>
   <translation>Entfernen</translation>
  </message>
  <message>
   <source>Reset “%1”</source>
   <translation>„%1“ zurücksetzen</translation>
  </message>
  <message>
   <source>A click folds the group and chooses its elements; drag it to another place.</source>
   <translation>Ein Klick klappt die Gruppe und wählt ihre Elemente; sie lässt sich an einen anderen Ort ziehen.</translation>
  </message>
  <message>
   <source>Rename…</source>
   <translation>Umbenennen…</translation>
  </message>
  <message>
   <source>Dissolve: its elements stay</source>
   <translation>Auflösen: ihre Elemente bleiben</translation>
  </message>
  <message>
   <source>Remove with its elements</source>
   <translation>Mit ihren Elementen entfernen</translation>
  </message>
  <message>
   <source>Mend: </source>
   <translation>Beheben: </translation>
  </message>
  <message>
   <source>trouble</source>
   <translation>Fehler</translation>
  </message>
  <message>
   <source>advice</source>
   <translation>Rat</translation>
  </message>
  <message>
   <source>to know</source>
   <translation>zu wissen</translation>
  </message>
  <message>
   <source>Its card</source>
   <translation>Seine Karte</translation>
  </message>
  <message>
   <source>The picture</source>
   <translation>Das Bild</translation>
  </message>
  <message>
   <source>All is well: every element adds something, and nothing looks other than meant.</source>
   <translation>Alles ist gut: jedes Element trägt etwas bei, und nichts sieht anders aus als gemeint.</translation>
  </message>
  <message>
   <source>Colours</source>
   <translation>Farben</translation>
  </message>
  <message>
   <source>colours</source>
   <translation>Farben</translation>
  </message>
  <message>
   <source>at %1 %   opaque %2 %</source>
   <translation>bei %1 %   deckt %2 %</translation>
  </message>
  <message>
   <source>Colour of the stop</source>
   <translation>Farbe der Stufe</translation>
  </message>
  <message>
   <source>“%1” cannot be read as a picture: %2.</source>
   <translation>„%1“ ist nicht als Bild zu lesen: %2.</translation>
  </message>
  <message>
   <source>Without air</source>
   <translation>Ohne Luft</translation>
  </message>
  <message>
   <source>Without </source>
   <translation>Ohne </translation>
  </message>
  <message>
   <source>the reference, which begins once the picture is clean</source>
   <translation>die Referenz, die beginnt, sobald das Bild sauber ist</translation>
  </message>
  <message>
   <source>Reference · %1 paths%2</source>
   <translation>Referenz · %1 Pfade%2</translation>
  </message>
  <message>
   <source>%1 · %2 samples</source>
   <translation>%1 · %2 Samples</translation>
  </message>
  <message>
   <source>%1 · as kept, %2 samples</source>
   <translation>%1 · wie behalten, %2 Samples</translation>
  </message>
  <message>
   <source>there is no element '</source>
   <translation>es gibt kein Element '</translation>
  </message>
  <message>
   <source>' any more</source>
   <translation>' mehr</translation>
  </message>
  <message>
   <source>Key</source>
   <translation>Key</translation>
  </message>
  <message>
   <source>Remove key</source>
   <translation>Key entfernen</translation>
  </message>
  <message>
   <source>%1: %2. Nothing was changed.</source>
   <translation>%1: %2. Nichts wurde geändert.</translation>
  </message>
  <message>
   <source>on</source>
   <translation>an</translation>
  </message>
  <message>
   <source>off</source>
   <translation>aus</translation>
  </message>
  <message>
   <source>%1. It stays as it was.</source>
   <translation>%1. Es bleibt, wie es war.</translation>
  </message>
  <message>
   <source>Choose a colour</source>
   <translation>Eine Farbe wählen</translation>
  </message>
  <message>
   <source>choose a file…</source>
   <translation>eine Datei wählen…</translation>
  </message>
  <message>
   <source>visibility</source>
   <translation>Sichtweite</translation>
  </message>
  <message>
   <source>extinction</source>
   <translation>Extinktion</translation>
  </message>
  <message>
   <source>mean free path</source>
   <translation>mittlere freie Weglänge</translation>
  </message>
  <message>
   <source>hides half over</source>
   <translation>verbirgt halb über</translation>
  </message>
  <message>
   <source>hides 99 % over</source>
   <translation>verbirgt 99 % über</translation>
  </message>
  <message>
   <source>
Click the word to see it as extinction, as mean free path, or as the thickness that hides half or 99 %.</source>
   <translation>
Ein Klick auf das Wort zeigt es als Extinktion, als mittlere freie Weglänge oder als Dicke, die die Hälfte oder 99 % verbirgt.</translation>
  </message>
  <message>
   <source>all of it</source>
   <translation>alles davon</translation>
  </message>
  <message>
   <source>by itself</source>
   <translation>von selbst</translation>
  </message>
  <message>
   <source>Choose a file first</source>
   <translation>Zuerst eine Datei wählen</translation>
  </message>
  <message>
   <source>There is none yet: add one first</source>
   <translation>Es gibt noch keins: zuerst eins hinzufügen</translation>
  </message>
  <message>
   <source>choose…</source>
   <translation>wählen…</translation>
  </message>
  <message>
   <source> (by itself)</source>
   <translation> (von selbst)</translation>
  </message>
  <message>
   <source> (gone)</source>
   <translation> (fort)</translation>
  </message>
  <message>
   <source>%1 %2, %3 m, %4 voxels, %5…%6</source>
   <translation>%1 %2, %3 m, %4 Voxel, %5…%6</translation>
  </message>
  <message>
   <source>(no name)</source>
   <translation>(ohne Namen)</translation>
  </message>
  <message>
   <source>%1 takes %2 MB</source>
   <translation>%1 braucht %2 MB</translation>
  </message>
  <message>
   <source>preview %1, file %2</source>
   <translation>Vorschau %1, Datei %2</translation>
  </message>
  <message>
   <source>Paint…</source>
   <translation>Malen…</translation>
  </message>
  <message>
   <source>In the Picture, with a round brush</source>
   <translation>Im Bild, mit einem runden Pinsel</translation>
  </message>
  <message>
   <source>Clear</source>
   <translation>Leeren</translation>
  </message>
  <message>
   <source>All faces feed again</source>
   <translation>Wieder speisen alle Flächen</translation>
  </message>
  <message>
   <source>none</source>
   <translation>keine</translation>
  </message>
  <message>
   <source>damaged</source>
   <translation>beschädigt</translation>
  </message>
  <message>
   <source>Export picture</source>
   <translation>Bild exportieren</translation>
  </message>
  <message>
   <source>File to write</source>
   <translation>Zu schreibende Datei</translation>
  </message>
  <message>
   <source>Browse…</source>
   <translation>Durchsuchen…</translation>
  </message>
  <message>
   <source>Live: as in the window</source>
   <translation>Live: wie im Fenster</translation>
  </message>
  <message>
   <source>Reference: path-traced, slow, without approximations</source>
   <translation>Referenz: pfadverfolgt, langsam, ohne Näherungen</translation>
  </message>
  <message>
   <source>no end by noise</source>
   <translation>kein Ende nach Rauschen</translation>
  </message>
  <message>
   <source>The reference ends once what is left of noise is under this; paths go where it is noisy.</source>
   <translation>Die Referenz endet, sobald das übrige Rauschen darunter ist; Pfade gehen dorthin, wo es rauscht.</translation>
  </message>
  <message>
   <source>no limit</source>
   <translation>keine Grenze</translation>
  </message>
  <message>
   <source>The reference ends after so long, such as 10 min.</source>
   <translation>Die Referenz endet nach so langer Zeit, etwa 10 min.</translation>
  </message>
  <message>
   <source>Share of the denoised picture in every layer; 0 leaves them as measured.</source>
   <translation>Anteil des entrauschten Bildes in jeder Ebene; 0 lässt sie wie gemessen.</translation>
  </message>
  <message>
   <source>All layers: plate, transmittance, air light together and by lamp, depth</source>
   <translation>Alle Ebenen: Plate, Transmission, Luftlicht zusammen und je Lampe, Tiefe</translation>
  </message>
  <message>
   <source>By lamp: the set's light and the shadows in the air as well</source>
   <translation>Je Lampe: auch das Licht des Sets und die Schatten in der Luft</translation>
  </message>
  <message>
   <source>Water by its parts: mirrored, seen through, foam, gathered light, mask (six times as long)</source>
   <translation>Wasser in Teilen: gespiegelt, durchgesehen, Schaum, gesammeltes Licht, Maske (sechsmal so lange)</translation>
  </message>
  <message>
   <source>Glow of the look in the EXR too, which stays linear</source>
   <translation>Glühen des Looks auch in der EXR, die linear bleibt</translation>
  </message>
  <message>
   <source>Hold the set out: black with alpha 0, it still hides and shades (for beams alone)</source>
   <translation>Das Set freistellen: schwarz mit Alpha 0, es verdeckt und beschattet weiter (für Strahlen allein)</translation>
  </message>
  <message>
   <source>Export</source>
   <translation>Exportieren</translation>
  </message>
  <message>
   <source>File</source>
   <translation>Datei</translation>
  </message>
  <message>
   <source>Size</source>
   <translation>Größe</translation>
  </message>
  <message>
   <source>by</source>
   <translation>mal</translation>
  </message>
  <message>
   <source>Integrator</source>
   <translation>Verfahren</translation>
  </message>
  <message>
   <source>Samples</source>
   <translation>Samples</translation>
  </message>
  <message>
   <source>Ends under noise of</source>
   <translation>Endet unter Rauschen von</translation>
  </message>
  <message>
   <source>or after</source>
   <translation>oder nach</translation>
  </message>
  <message>
   <source>Denoised</source>
   <translation>Entrauscht</translation>
  </message>
  <message>
   <source>Width</source>
   <translation>Breite</translation>
  </message>
  <message>
   <source>Height</source>
   <translation>Höhe</translation>
  </message>
  <message>
   <source>Noise it ends under</source>
   <translation>Rauschen, unter dem es endet</translation>
  </message>
  <message>
   <source>Time it ends after</source>
   <translation>Zeit, nach der es endet</translation>
  </message>
  <message>
   <source>Share denoised</source>
   <translation>Entrauschter Anteil</translation>
  </message>
  <message>
   <source>Paths at most</source>
   <translation>Pfade höchstens</translation>
  </message>
  <message>
   <source>The time must be like 90 s, 10 min or 2 h; empty for no limit.</source>
   <translation>Die Zeit muss wie 90 s, 10 min oder 2 h sein; leer für keine Grenze.</translation>
  </message>
  <message>
   <source>The noise must be from 0.01 % to 50 %; empty for no end by noise.</source>
   <translation>Das Rauschen muss von 0,01 % bis 50 % sein; leer für kein Ende nach Rauschen.</translation>
  </message>
  <message>
   <source>Linear light, 32-bit float, without the look. Beauty = plate × transmittance + air.</source>
   <translation>Lineares Licht, 32-Bit-Gleitkomma, ohne den Look. Gesamtbild = Plate × Transmission + Luft.</translation>
  </message>
  <message>
   <source>As shown, through the look: 8-bit sRGB.</source>
   <translation>Wie gezeigt, durch den Look: 8-Bit-sRGB.</translation>
  </message>
  <message>
   <source>The name must end in .exr or .png.</source>
   <translation>Der Name muss auf .exr oder .png enden.</translation>
  </message>
  <message>
   <source>OpenEXR (*.exr);;PNG (*.png)</source>
   <translation>OpenEXR (*.exr);;PNG (*.png)</translation>
  </message>
  <message>
   <source>Cancel</source>
   <translation>Abbrechen</translation>
  </message>
  <message>
   <source>Exporting </source>
   <translation>Exportieren: </translation>
  </message>
  <message>
   <source>Find anything</source>
   <translation>Alles finden</translation>
  </message>
  <message>
   <source>What to find</source>
   <translation>Was gesucht wird</translation>
  </message>
  <message>
   <source>a command, a setting, a setting and its value: visibility 300 m</source>
   <translation>ein Befehl, eine Einstellung, eine Einstellung mit Wert: Sichtweite 300 m</translation>
  </message>
  <message>
   <source>What was found</source>
   <translation>Was gefunden wurde</translation>
  </message>
  <message>
   <source>Nothing of that name. Try fewer letters.</source>
   <translation>Nichts mit diesem Namen. Weniger Buchstaben versuchen.</translation>
  </message>
  <message>
   <source>Bench ▸ </source>
   <translation>Werkbank ▸ </translation>
  </message>
  <message>
   <source>card </source>
   <translation>Karte </translation>
  </message>
  <message>
   <source>Unsolo </source>
   <translation>Solo beenden </translation>
  </message>
  <message>
   <source>Set %1 to %2</source>
   <translation>%1 auf %2 setzen</translation>
  </message>
  <message>
   <source>now </source>
   <translation>jetzt </translation>
  </message>
  <message>
   <source>First light</source>
   <translation>Erstes Licht</translation>
  </message>
  <message>
   <source>Haze, and mist on the water, before a low sun</source>
   <translation>Dunst und Nebel auf dem Wasser vor einer tiefen Sonne</translation>
  </message>
  <message>
   <source>Lamps in drizzle</source>
   <translation>Lampen im Niesel</translation>
  </message>
  <message>
   <source>Beams at night, in rain</source>
   <translation>Strahlen bei Nacht, im Regen</translation>
  </message>
  <message>
   <source>January</source>
   <translation>Januar</translation>
  </message>
  <message>
   <source>Snow that falls and snow that lies</source>
   <translation>Schnee, der fällt, und Schnee, der liegt</translation>
  </message>
  <message>
   <source>Estuary</source>
   <translation>Mündung</translation>
  </message>
  <message>
   <source>Open water under haze</source>
   <translation>Offenes Wasser unter Dunst</translation>
  </message>
  <message>
   <source>Weir pool</source>
   <translation>Wehrkolk</translation>
  </message>
  <message>
   <source>A boat in water that moves</source>
   <translation>Ein Boot in bewegtem Wasser</translation>
  </message>
  <message>
   <source>Valley</source>
   <translation>Tal</translation>
  </message>
  <message>
   <source>A layer of cloud seen from above</source>
   <translation>Eine Wolkenschicht von oben</translation>
  </message>
  <message>
   <source>First page</source>
   <translation>Erste Seite</translation>
  </message>
  <message>
   <source>A shot that stands</source>
   <translation>Eine Einstellung, die steht</translation>
  </message>
  <message>
   <source>Open one, turn its rulers, see what they do.</source>
   <translation>Eine öffnen, an ihren Linealen drehen, sehen, was sie tun.</translation>
  </message>
  <message>
   <source>A set of your own</source>
   <translation>Ein eigenes Set</translation>
  </message>
  <message>
   <source>Geometry in metres as glTF, OBJ, PLY or FBX; a camera in it is taken.</source>
   <translation>Geometrie in Metern als glTF, OBJ, PLY oder FBX; eine Kamera darin wird übernommen.</translation>
  </message>
  <message>
   <source>Import a set…</source>
   <translation>Set importieren…</translation>
  </message>
  <message>
   <source>Begin with nothing</source>
   <translation>Mit nichts beginnen</translation>
  </message>
  <message>
   <source>A plate</source>
   <translation>Eine Plate</translation>
  </message>
  <message>
   <source>A picture that is rendered already, with its depth: air is put in front of it.</source>
   <translation>Ein Bild, das schon gerechnet ist, mit seiner Tiefe: davor kommt Luft.</translation>
  </message>
  <message>
   <source>Import a plate…</source>
   <translation>Plate importieren…</translation>
  </message>
  <message>
   <source>A first fog, guided</source>
   <translation>Ein erster Nebel, geführt</translation>
  </message>
  <message>
   <source>Two minutes at the lock at Marl: five steps, each of which you do yourself.</source>
   <translation>Zwei Minuten an der Schleuse von Marl: fünf Schritte, die man selbst tut.</translation>
  </message>
  <message>
   <source>Show me</source>
   <translation>Zeigen</translation>
  </message>
  <message>
   <source>Not now</source>
   <translation>Nicht jetzt</translation>
  </message>
  <message>
   <source>This page stays under Help</source>
   <translation>Diese Seite bleibt unter Hilfe</translation>
  </message>
  <message>
   <source>There is not enough memory for this state; the picture shows the one before.</source>
   <translation>Der Speicher reicht nicht für diesen Zustand; das Bild zeigt den vorigen.</translation>
  </message>
  <message>
   <source>frame %1 is not baked</source>
   <translation>Bild %1 ist nicht gebacken</translation>
  </message>
  <message>
   <source>Guided first fog</source>
   <translation>Geführter erster Nebel</translation>
  </message>
  <message>
   <source>Go on</source>
   <translation>Weiter</translation>
  </message>
  <message>
   <source>Leave it</source>
   <translation>Beenden</translation>
  </message>
  <message>
   <source>This morning has no air yet: everything is as crisp far away as near. At the right press + add, and choose Fog bank.</source>
   <translation>Dieser Morgen hat noch keine Luft: fern ist alles so klar wie nah. Rechts + hinzu drücken und Nebelbank wählen.</translation>
  </message>
  <message>
   <source>It lies on the ground now. How thick it is, is how far one sees in it: drag the ruler under visibility on its card to the left, until the far trees go.</source>
   <translation>Nun liegt sie auf dem Boden. Wie dicht sie ist, sagt, wie weit man darin sieht: das Lineal unter Sichtweite auf ihrer Karte nach links ziehen, bis die fernen Bäume verschwinden.</translation>
  </message>
  <message>
   <source>Below is the Transect: the air from the side, distance across and height up. Drag the upper ring of the bank until its top stands lower than the lamp, or set top on the card.</source>
   <translation>Unten ist der Schnitt: die Luft von der Seite, Abstand nach rechts, Höhe nach oben. Den oberen Ring der Bank ziehen, bis ihre Oberkante tiefer als die Lampe steht, oder die Oberkante auf der Karte einstellen.</translation>
  </message>
  <message>
   <source>Click on a tree in the Picture: the Sounding tells how much of its light comes through and what the air adds before it.</source>
   <translation>Im Bild auf einen Baum klicken: die Lotung sagt, wie viel seines Lichts hindurchkommt und was die Luft davor hinzufügt.</translation>
  </message>
  <message>
   <source>Keep what you have with F5. From now on every change can be held against it, and you can come back.</source>
   <translation>Mit F5 behalten, was da ist. Von nun an lässt sich jede Änderung dagegenhalten, und man kann zurück.</translation>
  </message>
  <message>
   <source>That was it: thickness, height, measure, keep. Everything else is found with Ctrl+K.</source>
   <translation>Das war es: Dichte, Höhe, Messen, Behalten. Alles Weitere findet Strg+K.</translation>
  </message>
  <message>
   <source>Done</source>
   <translation>Fertig</translation>
  </message>
  <message>
   <source>Skip this</source>
   <translation>Überspringen</translation>
  </message>
  <message>
   <source>&lt;h3&gt;%1&lt;/h3&gt;&lt;p&gt;%2&lt;/p&gt;&lt;p&gt;Its settings:&lt;/p&gt;&lt;ul&gt;</source>
   <translation>&lt;h3&gt;%1&lt;/h3&gt;&lt;p&gt;%2&lt;/p&gt;&lt;p&gt;Die Einstellungen:&lt;/p&gt;&lt;ul&gt;</translation>
  </message>
  <message>
   <source>begins as</source>
   <translation>beginnt als</translation>
  </message>
  <message>
   <source>may be</source>
   <translation>darf sein</translation>
  </message>
  <message>
   <source>typed in</source>
   <translation>getippt in</translation>
  </message>
  <message>
   <source>over time</source>
   <translation>über die Zeit</translation>
  </message>
  <message>
   <source>can have keys and stirs</source>
   <translation>kann Keys und Bewegungen haben</translation>
  </message>
  <message>
   <source>stays the same</source>
   <translation>bleibt gleich</translation>
  </message>
  <message>
   <source>in files and commands</source>
   <translation>in Dateien und Befehlen</translation>
  </message>
  <message>
   <source>What settings do</source>
   <translation>Was Einstellungen tun</translation>
  </message>
  <message>
   <source>Kinds of elements and their settings</source>
   <translation>Arten von Elementen und ihre Einstellungen</translation>
  </message>
  <message>
   <source>What it does</source>
   <translation>Was es tut</translation>
  </message>
  <message>
   <source>History</source>
   <translation>Verlauf</translation>
  </message>
  <message>
   <source>A click goes to how it was after that step; what came later stays until something else is done.</source>
   <translation>Ein Klick geht dahin, wie es nach diesem Schritt war; was später kam, bleibt, bis etwas anderes getan wird.</translation>
  </message>
  <message>
   <source>As it was opened, or as far back as is kept</source>
   <translation>Wie es geöffnet wurde, oder so weit zurück, wie behalten wird</translation>
  </message>
  <message>
   <source>%1 (%2 changes, the first: %3)</source>
   <translation>%1 (%2 Änderungen, die erste: %3)</translation>
  </message>
  <message>
   <source>: there is not enough memory. Nothing was replaced.</source>
   <translation>: der Speicher reicht nicht. Nichts wurde ersetzt.</translation>
  </message>
  <message>
   <source>Pictures of %1 frames fit into the memory for them; the others are not drawn.</source>
   <translation>Bilder von %1 Einzelbildern passen in den Speicher dafür; die anderen werden nicht gezeichnet.</translation>
  </message>
  <message>
   <source>Drawing %1 frames</source>
   <translation>Zeichnen: %1 Bilder</translation>
  </message>
  <message>
   <source>frame </source>
   <translation>Bild </translation>
  </message>
  <message>
   <source>Not all frames from first to last are kept as they are now: draw them first.</source>
   <translation>Nicht alle Bilder vom ersten bis zum letzten sind so behalten, wie sie jetzt sind: zuerst zeichnen.</translation>
  </message>
  <message>
   <source>A movie's name ends in .mp4, .mov, .mkv or .webm; numbered pictures need # where the number goes, such as fog.####.png.</source>
   <translation>Der Name eines Films endet auf .mp4, .mov, .mkv oder .webm; nummerierte Bilder brauchen # für die Nummer, etwa nebel.####.png.</translation>
  </message>
  <message>
   <source>Writing</source>
   <translation>Schreiben</translation>
  </message>
  <message>
   <source>it cannot be written there</source>
   <translation>dort kann nicht geschrieben werden</translation>
  </message>
  <message>
   <source> pictures before it were.</source>
   <translation> Bilder davor wurden es.</translation>
  </message>
  <message>
   <source>Remove its key at frame %1</source>
   <translation>Key bei Bild %1 entfernen</translation>
  </message>
  <message>
   <source>Set a key at frame %1</source>
   <translation>Key bei Bild %1 setzen</translation>
  </message>
  <message>
   <source>Keys</source>
   <translation>Keys</translation>
  </message>
  <message>
   <source>Frame %1: %2</source>
   <translation>Bild %1: %2</translation>
  </message>
  <message>
   <source>smoothly</source>
   <translation>weich</translation>
  </message>
  <message>
   <source>in a step</source>
   <translation>in einer Stufe</translation>
  </message>
  <message>
   <source>From here on %1</source>
   <translation>Von hier an %1</translation>
  </message>
  <message>
   <source>Way of a key</source>
   <translation>Weg eines Keys</translation>
  </message>
  <message>
   <source>stay as it is</source>
   <translation>bleiben, wie sie sind</translation>
  </message>
  <message>
   <source>go on</source>
   <translation>weitergehen</translation>
  </message>
  <message>
   <source>repeat</source>
   <translation>sich wiederholen</translation>
  </message>
  <message>
   <source>swing to and fro</source>
   <translation>hin und her gehen</translation>
  </message>
  <message>
   <source>Before and after them: %1</source>
   <translation>Davor und danach: %1</translation>
  </message>
  <message>
   <source>Beyond the keys</source>
   <translation>Jenseits der Keys</translation>
  </message>
  <message>
   <source>Remove all its keys</source>
   <translation>Alle seine Keys entfernen</translation>
  </message>
  <message>
   <source>Remove keys</source>
   <translation>Keys entfernen</translation>
  </message>
  <message>
   <source>Stir it over time…</source>
   <translation>Über die Zeit bewegen…</translation>
  </message>
  <message>
   <source>Relative intensity by angle to the axis; %1 cd at most, %2 lm in all.</source>
   <translation>Relative Lichtstärke über dem Winkel zur Achse; höchstens %1 cd, insgesamt %2 lm.</translation>
  </message>
  <message>
   <source>%1 cd</source>
   <translation>%1 cd</translation>
  </message>
  <message>
   <source>Click to set points; click the first one again or press Return to close an outline. Drag points; right click removes one.</source>
   <translation>Klicken setzt Punkte; den ersten noch einmal anklicken oder Enter schließt einen Umriss. Punkte ziehen; Rechtsklick entfernt einen.</translation>
  </message>
  <message>
   <source>%1. It stays %2.</source>
   <translation>%1. Es bleibt bei %2.</translation>
  </message>
  <message>
   <source>Recipe </source>
   <translation>Rezept: </translation>
  </message>
  <message>
   <source>First fog</source>
   <translation>Erster Nebel</translation>
  </message>
  <message>
   <source>Project</source>
   <translation>Projekt</translation>
  </message>
  <message>
   <source>New</source>
   <translation>Neu</translation>
  </message>
  <message>
   <source>Open…</source>
   <translation>Öffnen…</translation>
  </message>
  <message>
   <source>Open again</source>
   <translation>Wieder öffnen</translation>
  </message>
  <message>
   <source>Save</source>
   <translation>Sichern</translation>
  </message>
  <message>
   <source>Save as…</source>
   <translation>Sichern unter…</translation>
  </message>
  <message>
   <source>Import set…</source>
   <translation>Set importieren…</translation>
  </message>
  <message>
   <source>Import plate…</source>
   <translation>Plate importieren…</translation>
  </message>
  <message>
   <source>Import volume…</source>
   <translation>Volumen importieren…</translation>
  </message>
  <message>
   <source>Import a volume</source>
   <translation>Ein Volumen importieren</translation>
  </message>
  <message>
   <source>Collect its files</source>
   <translation>Dateien sammeln</translation>
  </message>
  <message>
   <source>Export picture…</source>
   <translation>Bild exportieren…</translation>
  </message>
  <message>
   <source>Quit</source>
   <translation>Beenden</translation>
  </message>
  <message>
   <source>Edit</source>
   <translation>Bearbeiten</translation>
  </message>
  <message>
   <source>Undo</source>
   <translation>Rückgängig</translation>
  </message>
  <message>
   <source>Redo</source>
   <translation>Wiederholen</translation>
  </message>
  <message>
   <source>Cut</source>
   <translation>Ausschneiden</translation>
  </message>
  <message>
   <source>Choose all cards shown</source>
   <translation>Alle gezeigten Karten wählen</translation>
  </message>
  <message>
   <source>Find anything…</source>
   <translation>Alles finden…</translation>
  </message>
  <message>
   <source>Preferences…</source>
   <translation>Einstellungen…</translation>
  </message>
  <message>
   <source>Search everything and recipes…</source>
   <translation>Alles und Rezepte durchsuchen…</translation>
  </message>
  <message>
   <source>There is a %1 already; its card is under %2.</source>
   <translation>%1 gibt es schon; die Karte ist unter %2.</translation>
  </message>
  <message>
   <source>Help</source>
   <translation>Hilfe</translation>
  </message>
  <message>
   <source>About Hygros</source>
   <translation>Über Hygros</translation>
  </message>
  <message>
   <source>&lt;b&gt;Hygros %1&lt;/b&gt;&lt;p&gt;Air, fog and light for 3D scenes.&lt;/p&gt;&lt;p&gt;Licence: Apache-2.0. Words are set in Inter (SIL Open Font Licence 1.1), figures in B612 (SIL Open Font Licence 1.1).&lt;/p&gt;</source>
   <translation>&lt;b&gt;Hygros %1&lt;/b&gt;&lt;p&gt;Luft, Nebel und Licht für 3D-Szenen.&lt;/p&gt;&lt;p&gt;Lizenz: Apache-2.0. Wörter sind in Inter gesetzt (SIL Open Font Licence 1.1), Zahlen in B612 (SIL Open Font Licence 1.1).&lt;/p&gt;</translation>
  </message>
  <message>
   <source>“%1” was changed by somebody else since it was opened here.</source>
   <translation>„%1“ wurde von jemand anderem geändert, seit es hier geöffnet wurde.</translation>
  </message>
  <message>
   <source>“%1” is open in another window (process %2 on %3, since %4).</source>
   <translation>„%1“ ist in einem anderen Fenster offen (Prozess %2 auf %3, seit %4).</translation>
  </message>
  <message>
   <source> What is to become of it?</source>
   <translation> Was soll daraus werden?</translation>
  </message>
  <message>
   <source>Save under another name…</source>
   <translation>Unter anderem Namen sichern…</translation>
  </message>
  <message>
   <source>Write over it</source>
   <translation>Überschreiben</translation>
  </message>
  <message>
   <source>Do not save</source>
   <translation>Nicht sichern</translation>
  </message>
  <message>
   <source>Unsaved work</source>
   <translation>Ungesicherte Arbeit</translation>
  </message>
  <message>
   <source>“%1” was not saved when Hygros ended. It is kept as it was at %2.%3</source>
   <translation>„%1“ war nicht gesichert, als Hygros endete. Es ist behalten, wie es um %2 war.%3</translation>
  </message>
  <message>
   <source> stays as it is until you save.</source>
   <translation> bleibt, wie es ist, bis gesichert wird.</translation>
  </message>
  <message>
   <source>Go on with it</source>
   <translation>Damit weitermachen</translation>
  </message>
  <message>
   <source>Throw it away</source>
   <translation>Wegwerfen</translation>
  </message>
  <message>
   <source>Ask again next time</source>
   <translation>Nächstes Mal wieder fragen</translation>
  </message>
  <message>
   <source>Proofs</source>
   <translation>Abzüge</translation>
  </message>
  <message>
   <source>Keep a proof</source>
   <translation>Abzug behalten</translation>
  </message>
  <message>
   <source>Against the last proof, or not</source>
   <translation>Gegen den letzten Abzug, oder nicht</translation>
  </message>
  <message>
   <source>There is no proof yet: F5 keeps one.</source>
   <translation>Es gibt noch keinen Abzug: F5 behält einen.</translation>
  </message>
  <message>
   <source>Flip</source>
   <translation>Umschlagen</translation>
  </message>
  <message>
   <source>Bracket…</source>
   <translation>Reihe…</translation>
  </message>
  <message>
   <source>Against: without air</source>
   <translation>Gegen: ohne Luft</translation>
  </message>
  <message>
   <source>Against: the reference</source>
   <translation>Gegen: die Referenz</translation>
  </message>
  <message>
   <source>Against: without the chosen element</source>
   <translation>Gegen: ohne das gewählte Element</translation>
  </message>
  <message>
   <source>Choose a card first: the picture is then held against itself without that.</source>
   <translation>Zuerst eine Karte wählen: das Bild wird dann gegen sich selbst ohne sie gehalten.</translation>
  </message>
  <message>
   <source>Against a picture from disk…</source>
   <translation>Gegen ein Bild von der Platte…</translation>
  </message>
  <message>
   <source>Hold the picture against</source>
   <translation>Das Bild halten gegen</translation>
  </message>
  <message>
   <source>Pictures (*.png *.jpg *.jpeg *.tif *.tiff *.webp)</source>
   <translation>Bilder (*.png *.jpg *.jpeg *.tif *.tiff *.webp)</translation>
  </message>
  <message>
   <source>Match to a photograph…</source>
   <translation>An eine Fotografie angleichen…</translation>
  </message>
  <message>
   <source>By a line between both</source>
   <translation>Durch eine Linie zwischen beiden</translation>
  </message>
  <message>
   <source>By their difference</source>
   <translation>Durch ihren Unterschied</translation>
  </message>
  <message>
   <source>Beside each other</source>
   <translation>Nebeneinander</translation>
  </message>
  <message>
   <source>The picture alone</source>
   <translation>Das Bild allein</translation>
  </message>
  <message>
   <source>View</source>
   <translation>Ansicht</translation>
  </message>
  <message>
   <source>Back to the shot</source>
   <translation>Zurück zur Einstellung</translation>
  </message>
  <message>
   <source>Make this the shot</source>
   <translation>Dies zur Einstellung machen</translation>
  </message>
  <message>
   <source>Fit the whole picture</source>
   <translation>Das ganze Bild einpassen</translation>
  </message>
  <message>
   <source>Pixels %1:1</source>
   <translation>Bildpunkte %1:1</translation>
  </message>
  <message>
   <source>Size that is drawn</source>
   <translation>Gezeichnete Größe</translation>
  </message>
  <message>
   <source>Draw a region alone</source>
   <translation>Nur einen Ausschnitt zeichnen</translation>
  </message>
  <message>
   <source>Why is it dark or bright here?</source>
   <translation>Warum ist es hier dunkel oder hell?</translation>
  </message>
  <message>
   <source>Click in the Picture: what gives that place light, and what takes it, is then listed below.</source>
   <translation>Ins Bild klicken: was dem Ort Licht gibt und was es nimmt, steht dann unten.</translation>
  </message>
  <message>
   <source>Values of the pixel under the cursor</source>
   <translation>Werte des Bildpunkts unter dem Zeiger</translation>
  </message>
  <message>
   <source>Aids over the picture</source>
   <translation>Hilfen über dem Bild</translation>
  </message>
  <message>
   <source>Value study</source>
   <translation>Tonwertstudie</translation>
  </message>
  <message>
   <source>Off: the picture as it is</source>
   <translation>Aus: das Bild, wie es ist</translation>
  </message>
  <message>
   <source>%1 tones</source>
   <translation>%1 Töne</translation>
  </message>
  <message>
   <source>Reference picture</source>
   <translation>Referenzbild</translation>
  </message>
  <message>
   <source>Ends under %1 % noise</source>
   <translation>Endet unter %1 % Rauschen</translation>
  </message>
  <message>
   <source>As measured, not denoised</source>
   <translation>Wie gemessen, nicht entrauscht</translation>
  </message>
  <message>
   <source>Denoised by %1 %</source>
   <translation>Zu %1 % entrauscht</translation>
  </message>
  <message>
   <source>Live, both or reference</source>
   <translation>Live, beide oder Referenz</translation>
  </message>
  <message>
   <source>Hold the live picture to paths</source>
   <translation>Das Live-Bild an Pfaden halten</translation>
  </message>
  <message>
   <source>Light window</source>
   <translation>Helles Fenster</translation>
  </message>
  <message>
   <source>Time</source>
   <translation>Zeit</translation>
  </message>
  <message>
   <source>Play or stop</source>
   <translation>Abspielen oder anhalten</translation>
  </message>
  <message>
   <source>One frame on</source>
   <translation>Ein Bild vor</translation>
  </message>
  <message>
   <source>One frame back</source>
   <translation>Ein Bild zurück</translation>
  </message>
  <message>
   <source>Next key</source>
   <translation>Nächster Key</translation>
  </message>
  <message>
   <source>Former key</source>
   <translation>Voriger Key</translation>
  </message>
  <message>
   <source>First frame</source>
   <translation>Erstes Bild</translation>
  </message>
  <message>
   <source>Last frame</source>
   <translation>Letztes Bild</translation>
  </message>
  <message>
   <source>Record changes as keys</source>
   <translation>Änderungen als Keys aufzeichnen</translation>
  </message>
  <message>
   <source>Keep the run as pictures</source>
   <translation>Den Lauf als Bilder behalten</translation>
  </message>
  <message>
   <source>Write the kept run…</source>
   <translation>Behaltenen Lauf schreiben…</translation>
  </message>
  <message>
   <source>Bake all that is not fresh</source>
   <translation>Alles backen, was nicht frisch ist</translation>
  </message>
  <message>
   <source>Bake or stop</source>
   <translation>Backen oder anhalten</translation>
  </message>
  <message>
   <source>Bake again from the start</source>
   <translation>Noch einmal von vorn backen</translation>
  </message>
  <message>
   <source>Baked frames…</source>
   <translation>Gebackene Bilder…</translation>
  </message>
  <message>
   <source>Frames, rate and shutter…</source>
   <translation>Bilder, Rate und Verschluss…</translation>
  </message>
  <message>
   <source> · changed</source>
   <translation> · geändert</translation>
  </message>
  <message>
   <source> — Hygros</source>
   <translation> — Hygros</translation>
  </message>
  <message>
   <source>Unsaved changes</source>
   <translation>Ungesicherte Änderungen</translation>
  </message>
  <message>
   <source>“%1” has changes that are not saved.</source>
   <translation>„%1“ hat Änderungen, die nicht gesichert sind.</translation>
  </message>
  <message>
   <source>Drop the changes</source>
   <translation>Änderungen verwerfen</translation>
  </message>
  <message>
   <source>Stay</source>
   <translation>Bleiben</translation>
  </message>
  <message>
   <source>Open a project</source>
   <translation>Projekt öffnen</translation>
  </message>
  <message>
   <source>Hygros projects (*.hygros)</source>
   <translation>Hygros-Projekte (*.hygros)</translation>
  </message>
  <message>
   <source>Save the project</source>
   <translation>Projekt sichern</translation>
  </message>
  <message>
   <source>Import a set</source>
   <translation>Ein Set importieren</translation>
  </message>
  <message>
   <source>Photograph with its planes</source>
   <translation>Fotografie mit ihren Bildgründen</translation>
  </message>
  <message>
   <source>Lay the boxes on what stands near, farther and far: drag their middle or a corner. 1, 2 or 3 chooses one, the arrows move it, with Shift they size it.</source>
   <translation>Die Kästen auf das legen, was nah, ferner und fern steht: an der Mitte oder einer Ecke ziehen. 1, 2 oder 3 wählt einen, die Pfeile bewegen ihn, mit Umschalt die Größe.</translation>
  </message>
  <message>
   <source>Choose a photograph.</source>
   <translation>Eine Fotografie wählen.</translation>
  </message>
  <message>
   <source>Match to a photograph</source>
   <translation>An eine Fotografie angleichen</translation>
  </message>
  <message>
   <source>Photograph…</source>
   <translation>Fotografie…</translation>
  </message>
  <message>
   <source>Mean tone of each plane in stops around middle grey: outlined the photograph, small this picture, filled as matched.</source>
   <translation>Mittlerer Ton jedes Grundes in Blenden um mittleres Grau: umrandet die Fotografie, klein dieses Bild, gefüllt wie angeglichen.</translation>
  </message>
  <message>
   <source>exposure</source>
   <translation>Belichtung</translation>
  </message>
  <message>
   <source>neutral point</source>
   <translation>Neutralpunkt</translation>
  </message>
  <message>
   <source>Whose visibility is matched</source>
   <translation>Wessen Sichtweite angeglichen wird</translation>
  </message>
  <message>
   <source>no visibility</source>
   <translation>keine Sichtweite</translation>
  </message>
  <message>
   <source>visibility of </source>
   <translation>Sichtweite von </translation>
  </message>
  <message>
   <source>Match</source>
   <translation>Angleichen</translation>
  </message>
  <message>
   <source>Take it over</source>
   <translation>Übernehmen</translation>
  </message>
  <message>
   <source>Match to</source>
   <translation>Angleichen an</translation>
  </message>
  <message>
   <source>Stop</source>
   <translation>Anhalten</translation>
  </message>
  <message>
   <source>Matching: %1 %</source>
   <translation>Angleichen: %1 %</translation>
  </message>
  <message>
   <source>Tones are read as sRGB; what a camera's own curve did to them is not known. What is matched is a start, not the end.</source>
   <translation>Töne werden als sRGB gelesen; was die Kurve einer Kamera ihnen tat, ist nicht bekannt. Das Angleichen ist ein Anfang, nicht das Ende.</translation>
  </message>
  <message>
   <source>visibility </source>
   <translation>Sichtweite </translation>
  </message>
  <message>
   <source>exposure %1 stops</source>
   <translation>Belichtung %1 Blenden</translation>
  </message>
  <message>
   <source>neutral at </source>
   <translation>neutral bei </translation>
  </message>
  <message>
   <source>The planes stand as in the photograph</source>
   <translation>Die Bildgründe stehen wie in der Fotografie</translation>
  </message>
  <message>
   <source>The planes stand nearly as in the photograph</source>
   <translation>Die Bildgründe stehen fast wie in der Fotografie</translation>
  </message>
  <message>
   <source>The planes cannot be brought to the photograph's by these alone</source>
   <translation>Die Bildgründe lassen sich damit allein nicht auf die der Fotografie bringen</translation>
  </message>
  <message>
   <source>mean </source>
   <translation>Mittel </translation>
  </message>
  <message>
   <source>Nothing moves yet. Press K on a ruler of a card to set a key at this frame, or turn on Record and change something at another one.</source>
   <translation>Noch bewegt sich nichts. Auf dem Lineal einer Karte K drücken, um bei diesem Bild einen Key zu setzen, oder die Aufzeichnung einschalten und bei einem anderen etwas ändern.</translation>
  </message>
  <message>
   <source>click a name: its curve</source>
   <translation>auf einen Namen klicken: seine Kurve</translation>
  </message>
  <message>
   <source>1 key</source>
   <translation>1 Key</translation>
  </message>
  <message>
   <source>%1 keys</source>
   <translation>%1 Keys</translation>
  </message>
  <message>
   <source>Move keys</source>
   <translation>Keys verschieben</translation>
  </message>
  <message>
   <source>Paste keys</source>
   <translation>Keys einfügen</translation>
  </message>
  <message>
   <source>none of the copied keys fits this element</source>
   <translation>keiner der kopierten Keys passt zu diesem Element</translation>
  </message>
  <message>
   <source>Way of keys</source>
   <translation>Weg der Keys</translation>
  </message>
  <message>
   <source>Frame of keys</source>
   <translation>Bild der Keys</translation>
  </message>
  <message>
   <source>Value of keys</source>
   <translation>Wert der Keys</translation>
  </message>
  <message>
   <source>Copy keys</source>
   <translation>Keys kopieren</translation>
  </message>
  <message>
   <source>Paste keys at the play head</source>
   <translation>Keys am Abspielkopf einfügen</translation>
  </message>
  <message>
   <source>Slopes as they come</source>
   <translation>Steigungen, wie sie kommen</translation>
  </message>
  <message>
   <source>Slopes of keys</source>
   <translation>Steigungen der Keys</translation>
  </message>
  <message>
   <source>Show the whole range</source>
   <translation>Den ganzen Bereich zeigen</translation>
  </message>
  <message>
   <source>Stretch keys</source>
   <translation>Keys strecken</translation>
  </message>
  <message>
   <source>Slope of a key</source>
   <translation>Steigung eines Keys</translation>
  </message>
  <message>
   <source>%1 %2 at frame %3: %4</source>
   <translation>%1 %2 bei Bild %3: %4</translation>
  </message>
  <message>
   <source>whole frames</source>
   <translation>ganze Bilder</translation>
  </message>
  <message>
   <source>Motion</source>
   <translation>Bewegung</translation>
  </message>
  <message>
   <source>Frame of the key</source>
   <translation>Bild des Keys</translation>
  </message>
  <message>
   <source>frame</source>
   <translation>Bild</translation>
  </message>
  <message>
   <source>Frame of the chosen key; of several, that of the first: all move along.</source>
   <translation>Bild des gewählten Keys; bei mehreren das des ersten: alle gehen mit.</translation>
  </message>
  <message>
   <source>Value of the key</source>
   <translation>Wert des Keys</translation>
  </message>
  <message>
   <source>value</source>
   <translation>Wert</translation>
  </message>
  <message>
   <source>Value of what is chosen, with its unit.</source>
   <translation>Wert des Gewählten, mit Einheit.</translation>
  </message>
  <message>
   <source>smooth</source>
   <translation>weich</translation>
  </message>
  <message>
   <source>linear</source>
   <translation>linear</translation>
  </message>
  <message>
   <source>hold</source>
   <translation>halten</translation>
  </message>
  <message>
   <source>How it goes on from the chosen keys.</source>
   <translation>Wie es von den gewählten Keys weitergeht.</translation>
  </message>
  <message>
   <source>Keys that are dragged or stretched stand at whole frames.</source>
   <translation>Gezogene oder gestreckte Keys stehen auf ganzen Bildern.</translation>
  </message>
  <message>
   <source>%1 ms  %2 %</source>
   <translation>%1 ms  %2 %</translation>
  </message>
  <message>
   <source>Choose the object whose faces are to feed on its card first.</source>
   <translation>Zuerst auf der Karte das Objekt wählen, dessen Flächen speisen sollen.</translation>
  </message>
  <message>
   <source>Drag: faces under the brush feed. With Shift: not. Ctrl and wheel: its size.   %1 painted</source>
   <translation>Ziehen: Flächen unter dem Pinsel speisen. Mit Umschalt: nicht. Strg und Rad: seine Größe.   %1 bemalt</translation>
  </message>
  <message>
   <source>Take painted faces away</source>
   <translation>Bemalte Flächen wegnehmen</translation>
  </message>
  <message>
   <source>Paint faces</source>
   <translation>Flächen bemalen</translation>
  </message>
  <message>
   <source>Wipe</source>
   <translation>Wischen</translation>
  </message>
  <message>
   <source>Difference</source>
   <translation>Unterschied</translation>
  </message>
  <message>
   <source>Beside</source>
   <translation>Daneben</translation>
  </message>
  <message>
   <source>A line between both; drag it, and turn it by its small grip</source>
   <translation>Eine Linie zwischen beiden; man zieht sie und dreht sie an ihrem kleinen Griff</translation>
  </message>
  <message>
   <source>One in place of the other, at each press of F4</source>
   <translation>Eines an der Stelle des anderen, bei jedem Druck auf F4</translation>
  </message>
  <message>
   <source>The signed difference: mid-grey where they are the same, brighter where it is lighter now</source>
   <translation>Der Unterschied mit Vorzeichen: mittelgrau, wo sie gleich sind, heller, wo es jetzt heller ist</translation>
  </message>
  <message>
   <source>Both at half the size</source>
   <translation>Beide in halber Größe</translation>
  </message>
  <message>
   <source>Draw the difference half as strong</source>
   <translation>Den Unterschied halb so stark zeichnen</translation>
  </message>
  <message>
   <source>Draw the difference twice as strong</source>
   <translation>Den Unterschied doppelt so stark zeichnen</translation>
  </message>
  <message>
   <source>End</source>
   <translation>Ende</translation>
  </message>
  <message>
   <source>The picture alone again</source>
   <translation>Wieder das Bild allein</translation>
  </message>
  <message>
   <source>Now · %1 samples</source>
   <translation>Jetzt · %1 Samples</translation>
  </message>
  <message>
   <source>Now − %1 · ×%2</source>
   <translation>Jetzt − %1 · ×%2</translation>
  </message>
  <message>
   <source>Against </source>
   <translation>Gegen </translation>
  </message>
  <message>
   <source>levels of 255 · mean %1</source>
   <translation>Stufen von 255 · Mittel %1</translation>
  </message>
  <message>
   <source>move over the level</source>
   <translation>über der Ebene bewegen</translation>
  </message>
  <message>
   <source>turn</source>
   <translation>drehen</translation>
  </message>
  <message>
   <source>lift</source>
   <translation>heben</translation>
  </message>
  <message>
   <source>size</source>
   <translation>Größe</translation>
  </message>
  <message>
   <source>aim</source>
   <translation>richten</translation>
  </message>
  <message>
   <source>beam</source>
   <translation>Strahl</translation>
  </message>
  <message>
   <source>range</source>
   <translation>Weite</translation>
  </message>
  <message>
   <source>drop </source>
   <translation>Tropfen </translation>
  </message>
  <message>
   <source>flake </source>
   <translation>Flocke </translation>
  </message>
  <message>
   <source>spray </source>
   <translation>Gischt </translation>
  </message>
  <message>
   <source>leaf </source>
   <translation>Blatt </translation>
  </message>
  <message>
   <source>ball </source>
   <translation>Kugel </translation>
  </message>
  <message>
   <source>lies</source>
   <translation>liegt</translation>
  </message>
  <message>
   <source>, %1 s old</source>
   <translation>, %1 s alt</translation>
  </message>
  <message>
   <source> at </source>
   <translation> bei </translation>
  </message>
  <message>
   <source>the reference begins when the live picture is clean</source>
   <translation>die Referenz beginnt, wenn das Live-Bild sauber ist</translation>
  </message>
  <message>
   <source>reference  a first look, denoised</source>
   <translation>Referenz  ein erster Blick, entrauscht</translation>
  </message>
  <message>
   <source>reference  %1 paths</source>
   <translation>Referenz  %1 Pfade</translation>
  </message>
  <message>
   <source>   live is %1%2 % of its light</source>
   <translation>   live hat %1%2 % ihres Lichts</translation>
  </message>
  <message>
   <source>about </source>
   <translation>etwa </translation>
  </message>
  <message>
   <source>   done</source>
   <translation>   fertig</translation>
  </message>
  <message>
   <source>sky</source>
   <translation>Himmel</translation>
  </message>
  <message>
   <source>Path of </source>
   <translation>Pfad von </translation>
  </message>
  <message>
   <source>e.g. 2.1 m</source>
   <translation>z. B. 2,1 m</translation>
  </message>
  <message>
   <source>Click one end of something whose length you know.</source>
   <translation>Ein Ende von etwas anklicken, dessen Länge bekannt ist.</translation>
  </message>
  <message>
   <source>Click the surface it is to stand over.</source>
   <translation>Die Fläche anklicken, über der sie stehen soll.</translation>
  </message>
  <message>
   <source>Click where %1 is to stand. Esc leaves it where it is.</source>
   <translation>Anklicken, wo %1 stehen soll. Esc lässt es, wo es ist.</translation>
  </message>
  <message>
   <source>Click what is to be sharp.</source>
   <translation>Anklicken, was scharf sein soll.</translation>
  </message>
  <message>
   <source>Click where it is to strike.</source>
   <translation>Anklicken, wo er einschlagen soll.</translation>
  </message>
  <message>
   <source>Now click where it comes from: a place in the sky over that.</source>
   <translation>Nun anklicken, woher er kommt: ein Ort am Himmel darüber.</translation>
  </message>
  <message>
   <source>Click the ground that it is to stand on, or the line that it is to reach.</source>
   <translation>Den Boden anklicken, auf dem es stehen soll, oder die Linie, die es erreichen soll.</translation>
  </message>
  <message>
   <source>Drag a rectangle: it alone is drawn from then on, and gets clean sooner.</source>
   <translation>Ein Rechteck ziehen: von da an wird nur dieses gezeichnet und früher sauber.</translation>
  </message>
  <message>
   <source>Drag the line to the plate's horizon, an end of it to tilt it; drag the mark to a place on the ground, 0 m high.</source>
   <translation>Die Linie auf den Horizont der Plate ziehen, an einem Ende neigt sie sich; die Marke auf einen Ort am Boden, 0 m hoch.</translation>
  </message>
  <message>
   <source>There is nothing but sky. Click on the set.</source>
   <translation>Da ist nichts als Himmel. Auf das Set klicken.</translation>
  </message>
  <message>
   <source>place the lamp</source>
   <translation>die Lampe stellen</translation>
  </message>
  <message>
   <source>Focus</source>
   <translation>Scharf stellen</translation>
  </message>
  <message>
   <source>Click its other end.</source>
   <translation>Das andere Ende anklicken.</translation>
  </message>
  <message>
   <source>Now it is %1 long. It should be</source>
   <translation>Jetzt ist es %1 lang. Es sollte sein</translation>
  </message>
  <message>
   <source>“%1” is no length. Type for example 2.1 m or 7 ft.</source>
   <translation>„%1“ ist keine Länge. Zum Beispiel 2,1 m oder 7 ft eingeben.</translation>
  </message>
  <message>
   <source>Horizon</source>
   <translation>Horizont</translation>
  </message>
  <message>
   <source>The ground's mark must lie below the horizon.</source>
   <translation>Die Bodenmarke muss unter dem Horizont liegen.</translation>
  </message>
  <message>
   <source>There is no depth under the ground's mark: put it on a place of the plate that has one.</source>
   <translation>Unter der Bodenmarke ist keine Tiefe: sie auf einen Ort der Plate setzen, der eine hat.</translation>
  </message>
  <message>
   <source>Camera height from the ground</source>
   <translation>Kamerahöhe vom Boden</translation>
  </message>
  <message>
   <source>horizon</source>
   <translation>Horizont</translation>
  </message>
  <message>
   <source>roll %1</source>
   <translation>Rollen %1</translation>
  </message>
  <message>
   <source>ground, 0 m   %1 away   camera %2 up</source>
   <translation>Boden, 0 m   %1 entfernt   Kamera %2 hoch</translation>
  </message>
  <message>
   <source>Picture</source>
   <translation>Bild</translation>
  </message>
  <message>
   <source>Live</source>
   <translation>Live</translation>
  </message>
  <message>
   <source>Both</source>
   <translation>Beide</translation>
  </message>
  <message>
   <source>Reference</source>
   <translation>Referenz</translation>
  </message>
  <message>
   <source>The live picture</source>
   <translation>Das Live-Bild</translation>
  </message>
  <message>
   <source>The live picture at the left of a line that you can drag, the reference at its right</source>
   <translation>Links einer Linie, die man ziehen kann, das Live-Bild, rechts die Referenz</translation>
  </message>
  <message>
   <source>Path-traced: slow and without approximations. It begins once the live picture is clean and goes on until its noise is low</source>
   <translation>Pfadverfolgt: langsam und ohne Näherungen. Beginnt, sobald das Live-Bild sauber ist, und läuft, bis ihr Rauschen gering ist</translation>
  </message>
  <message>
   <source>Fit</source>
   <translation>Ganz</translation>
  </message>
  <message>
   <source>The whole picture (Ctrl+0)</source>
   <translation>Das ganze Bild (Strg+0)</translation>
  </message>
  <message>
   <source>One pixel of the screen for each of the delivered picture (Ctrl+1)</source>
   <translation>Ein Bildpunkt des Schirms für jeden des gelieferten Bildes (Strg+1)</translation>
  </message>
  <message>
   <source>Two for each (Ctrl+2)</source>
   <translation>Zwei für jeden (Strg+2)</translation>
  </message>
  <message>
   <source>Four for each (Ctrl+4)</source>
   <translation>Vier für jeden (Strg+4)</translation>
  </message>
  <message>
   <source>Every pixel of the window is drawn. At half size a picture takes a quarter of the time.</source>
   <translation>Jeder Bildpunkt des Fensters wird gezeichnet. In halber Größe braucht ein Bild ein Viertel der Zeit.</translation>
  </message>
  <message>
   <source>One pixel is drawn for %1 × %1 of the window, in 1/%2 of the time. Enlarged and delivered pictures are not touched by it.</source>
   <translation>Ein Bildpunkt wird für %1 × %1 des Fensters gezeichnet, in 1/%2 der Zeit. Vergrößerte und gelieferte Bilder berührt das nicht.</translation>
  </message>
  <message>
   <source>All of it</source>
   <translation>Alles</translation>
  </message>
  <message>
   <source>Draws all of the picture again (Escape)</source>
   <translation>Zeichnet wieder das ganze Bild (Escape)</translation>
  </message>
  <message>
   <source>Quarter size</source>
   <translation>Viertel Größe</translation>
  </message>
  <message>
   <source>Half size</source>
   <translation>Halbe Größe</translation>
  </message>
  <message>
   <source>Full size</source>
   <translation>Volle Größe</translation>
  </message>
  <message>
   <source>   linear</source>
   <translation>   linear</translation>
  </message>
  <message>
   <source>   shown %1 %2 %3</source>
   <translation>   gezeigt %1 %2 %3</translation>
  </message>
  <message>
   <source>fore</source>
   <translation>vorn</translation>
  </message>
  <message>
   <source>middle</source>
   <translation>Mitte</translation>
  </message>
  <message>
   <source>back</source>
   <translation>hinten</translation>
  </message>
  <message>
   <source>Planes</source>
   <translation>Bildgründe</translation>
  </message>
  <message>
   <source>Drag a border; double-click gives both back to the depth of the picture.</source>
   <translation>Eine Grenze ziehen; Doppelklick gibt beide der Tiefe des Bildes zurück.</translation>
  </message>
  <message>
   <source>to </source>
   <translation>bis </translation>
  </message>
  <message>
   <source>from </source>
   <translation>ab </translation>
  </message>
  <message>
   <source> to </source>
   <translation> bis </translation>
  </message>
  <message>
   <source>Nothing stands here.</source>
   <translation>Hier steht nichts.</translation>
  </message>
  <message>
   <source>mean</source>
   <translation>Mittel</translation>
  </message>
  <message>
   <source> stops</source>
   <translation> Blenden</translation>
  </message>
  <message>
   <source>spread</source>
   <translation>Spanne</translation>
  </message>
  <message>
   <source>chroma</source>
   <translation>Buntheit</translation>
  </message>
  <message>
   <source>the picture</source>
   <translation>das Bild</translation>
  </message>
  <message>
   <source>what it is held against</source>
   <translation>wogegen es gehalten wird</translation>
  </message>
  <message>
   <source>The planes are measured from the first full picture.</source>
   <translation>Die Bildgründe werden am ersten vollen Bild gemessen.</translation>
  </message>
  <message>
   <source>stops: they
merge</source>
   <translation>Blenden: sie
verschmelzen</translation>
  </message>
  <message>
   <source>stops apart</source>
   <translation>Blenden auseinander</translation>
  </message>
  <message>
   <source> there</source>
   <translation> dort</translation>
  </message>
  <message>
   <source> without air</source>
   <translation> ohne Luft</translation>
  </message>
  <message>
   <source>Preferences</source>
   <translation>Einstellungen</translation>
  </message>
  <message>
   <source>Pages</source>
   <translation>Seiten</translation>
  </message>
  <message>
   <source>Window</source>
   <translation>Fenster</translation>
  </message>
  <message>
   <source>Panels</source>
   <translation>Flächen</translation>
  </message>
  <message>
   <source>Dark</source>
   <translation>Dunkel</translation>
  </message>
  <message>
   <source>Light</source>
   <translation>Hell</translation>
  </message>
  <message>
   <source>Size of the interface</source>
   <translation>Größe der Oberfläche</translation>
  </message>
  <message>
   <source>From the next start.</source>
   <translation>Ab dem nächsten Start.</translation>
  </message>
  <message>
   <source>Lengths</source>
   <translation>Längen</translation>
  </message>
  <message>
   <source>Metres</source>
   <translation>Meter</translation>
  </message>
  <message>
   <source>Feet and miles</source>
   <translation>Fuß und Meilen</translation>
  </message>
  <message>
   <source>How they are shown; any unit can be typed.</source>
   <translation>Wie sie gezeigt werden; tippen darf man jede Einheit.</translation>
  </message>
  <message>
   <source>Speeds</source>
   <translation>Geschwindigkeiten</translation>
  </message>
  <message>
   <source>Decimal sign</source>
   <translation>Dezimalzeichen</translation>
  </message>
  <message>
   <source>As the system has it</source>
   <translation>Wie das System es hat</translation>
  </message>
  <message>
   <source>Point</source>
   <translation>Punkt</translation>
  </message>
  <message>
   <source>Comma</source>
   <translation>Komma</translation>
  </message>
  <message>
   <source>Both are understood when typed; files have points.</source>
   <translation>Beim Tippen wird beides verstanden; Dateien haben Punkte.</translation>
  </message>
  <message>
   <source>Language</source>
   <translation>Sprache</translation>
  </message>
  <message>
   <source>Pictures</source>
   <translation>Bilder</translation>
  </message>
  <message>
   <source>Passes of a clean picture</source>
   <translation>Durchgänge eines sauberen Bildes</translation>
  </message>
  <message>
   <source>Light in the live picture</source>
   <translation>Licht im Live-Bild</translation>
  </message>
  <message>
   <source>By the march alone</source>
   <translation>Durch den Strahlgang allein</translation>
  </message>
  <message>
   <source>Held to traced paths</source>
   <translation>An verfolgten Pfaden gehalten</translation>
  </message>
  <message>
   <source>Paths say how much light there is; the march says where.</source>
   <translation>Pfade sagen, wie viel Licht da ist; der Strahlgang sagt, wo.</translation>
  </message>
  <message>
   <source>As this project's look</source>
   <translation>Wie der Look dieses Projekts</translation>
  </message>
  <message>
   <source>As delivered</source>
   <translation>Wie geliefert</translation>
  </message>
  <message>
   <source>New projects begin</source>
   <translation>Neue Projekte beginnen</translation>
  </message>
  <message>
   <source>Exposure, neutral point, tone curve and glow.</source>
   <translation>Belichtung, Neutralpunkt, Tonkurve und Glühen.</translation>
  </message>
  <message>
   <source>As the look that was kept; this one instead</source>
   <translation>Wie der Look, der behalten wurde; stattdessen dieser</translation>
  </message>
  <message>
   <source>Machine</source>
   <translation>Rechner</translation>
  </message>
  <message>
   <source>All %1</source>
   <translation>Alle %1</translation>
  </message>
  <message>
   <source>Threads that render</source>
   <translation>Threads, die zeichnen</translation>
  </message>
  <message>
   <source>Fewer leave room for what else runs here.</source>
   <translation>Weniger lassen Raum für das, was hier sonst läuft.</translation>
  </message>
  <message>
   <source>Memory for what is kept</source>
   <translation>Speicher für Behaltenes</translation>
  </message>
  <message>
   <source>Sets, volumes and shadows that were read or worked out; what was not used for longest goes first. Now %1 GB are kept.</source>
   <translation>Sets, Volumen und Schatten, die gelesen oder ausgerechnet wurden; was am längsten nicht gebraucht wurde, geht zuerst. Jetzt sind %1 GB behalten.</translation>
  </message>
  <message>
   <source>Baked frames of a project</source>
   <translation>Gebackene Bilder eines Projekts</translation>
  </message>
  <message>
   <source>Beside the project's file. Bakes that are begun keep the limit they had.</source>
   <translation>Neben der Datei des Projekts. Begonnenes Backen behält die Grenze, die es hatte.</translation>
  </message>
  <message>
   <source>Folder of reference paths</source>
   <translation>Ordner der Referenzpfade</translation>
  </message>
  <message>
   <source>Reference paths</source>
   <translation>Referenzpfade</translation>
  </message>
  <message>
   <source>Kept here and gone on from. Empty: where the system keeps such files.</source>
   <translation>Hier behalten und weitergeführt. Leer: wo das System solche Dateien hält.</translation>
  </message>
  <message>
   <source>” cannot be made: the folder stays as it was.</source>
   <translation>“ lässt sich nicht anlegen: der Ordner bleibt, wie er war.</translation>
  </message>
  <message>
   <source>and no more than</source>
   <translation>und nicht mehr als</translation>
  </message>
  <message>
   <source>Keyboard</source>
   <translation>Tastatur</translation>
  </message>
  <message>
   <source>All as delivered</source>
   <translation>Alles wie geliefert</translation>
  </message>
  <message>
   <source>Everything is as delivered.</source>
   <translation>Alles ist wie geliefert.</translation>
  </message>
  <message>
   <source>Find a command</source>
   <translation>Einen Befehl finden</translation>
  </message>
  <message>
   <source>find a command</source>
   <translation>Befehl finden</translation>
  </message>
  <message>
   <source>Commands and their keys</source>
   <translation>Befehle und ihre Tasten</translation>
  </message>
  <message>
   <source>Command</source>
   <translation>Befehl</translation>
  </message>
  <message>
   <source>New keys</source>
   <translation>Neue Tasten</translation>
  </message>
  <message>
   <source>No keys</source>
   <translation>Keine Tasten</translation>
  </message>
  <message>
   <source>“%1” had these keys and has none now.</source>
   <translation>„%1“ hatte diese Tasten und hat jetzt keine.</translation>
  </message>
  <message>
   <source>Keep proof</source>
   <translation>Behalten</translation>
  </message>
  <message>
   <source>Keeps the picture with the whole state that made it (F5)</source>
   <translation>Behält das Bild mit dem ganzen Zustand, der es machte (F5)</translation>
  </message>
  <message>
   <source>Against…</source>
   <translation>Gegen…</translation>
  </message>
  <message>
   <source>Holds the picture against itself without air, without an element, or against one from disk</source>
   <translation>Hält das Bild gegen sich selbst ohne Luft, ohne ein Element oder gegen eines von der Platte</translation>
  </message>
  <message>
   <source>The reference</source>
   <translation>Die Referenz</translation>
  </message>
  <message>
   <source>A picture from disk…</source>
   <translation>Ein Bild von der Platte…</translation>
  </message>
  <message>
   <source>Proof </source>
   <translation>Abzug: </translation>
  </message>
  <message>
   <source>Keep a proof with F5; click it at the left, and what differs now stands here.</source>
   <translation>Mit F5 einen Abzug behalten; links anklicken, und hier steht, was jetzt anders ist.</translation>
  </message>
  <message>
   <source>Note of the proof</source>
   <translation>Notiz zum Abzug</translation>
  </message>
  <message>
   <source>Go back to it</source>
   <translation>Dahin zurück</translation>
  </message>
  <message>
   <source>Its state in place of the present one; Undo takes that back</source>
   <translation>Sein Zustand statt des jetzigen; Rückgängig nimmt das zurück</translation>
  </message>
  <message>
   <source>Forget it</source>
   <translation>Vergessen</translation>
  </message>
  <message>
   <source>Nothing differs from it now.</source>
   <translation>Nichts ist jetzt anders.</translation>
  </message>
  <message>
   <source>One thing differs now:</source>
   <translation>Eines ist jetzt anders:</translation>
  </message>
  <message>
   <source>%1 things differ now:</source>
   <translation>%1 Dinge sind jetzt anders:</translation>
  </message>
  <message>
   <source>As it was</source>
   <translation>Wie es war</translation>
  </message>
  <message>
   <source>All of this element as it was in the proof; the others stay</source>
   <translation>Alles von diesem Element, wie es im Abzug war; die anderen bleiben</translation>
  </message>
  <message>
   <source>There is no picture yet to keep a proof of.</source>
   <translation>Noch gibt es kein Bild, von dem ein Abzug zu behalten wäre.</translation>
  </message>
  <message>
   <source>A proof is of the whole picture: fit it first (Ctrl+0).</source>
   <translation>Ein Abzug ist vom ganzen Bild: zuerst einpassen (Strg+0).</translation>
  </message>
  <message>
   <source>Proof %1</source>
   <translation>Abzug %1</translation>
  </message>
  <message>
   <source>Back to “</source>
   <translation>Zurück zu „</translation>
  </message>
  <message>
   <source>%1 as in “%2”</source>
   <translation>%1 wie in „%2“</translation>
  </message>
  <message>
   <source>not readable by this version</source>
   <translation>mit dieser Version nicht lesbar</translation>
  </message>
  <message>
   <source>%1 · frame %2 · %3 samples</source>
   <translation>%1 · Bild %2 · %3 Samples</translation>
  </message>
  <message>
   <source>There is no light yet: add one from the Lights.</source>
   <translation>Noch gibt es kein Licht: eines unter Licht hinzufügen.</translation>
  </message>
  <message>
   <source>There is nothing to light yet: add air or bring a set.</source>
   <translation>Noch ist nichts zu erhellen: Luft hinzufügen oder ein Set bringen.</translation>
  </message>
  <message>
   <source>light on …</source>
   <translation>Licht auf …</translation>
  </message>
  <message>
   <source>share of a pass</source>
   <translation>Anteil an einem Durchgang</translation>
  </message>
  <message>
   <source>Reach</source>
   <translation>Wirkbereich</translation>
  </message>
  <message>
   <source>Click a cell to turn a light off or on there; drag it up or down, or type a number, for its strength.</source>
   <translation>Eine Zelle anklicken schaltet dort ein Licht aus oder ein; nach oben oder unten ziehen oder eine Zahl tippen gibt seine Stärke.</translation>
  </message>
  <message>
   <source>: sun</source>
   <translation>: Sonne</translation>
  </message>
  <message>
   <source>: sky</source>
   <translation>: Himmel</translation>
  </message>
  <message>
   <source>Copy the row</source>
   <translation>Zeile kopieren</translation>
  </message>
  <message>
   <source>Put the copied row here</source>
   <translation>Kopierte Zeile hierher</translation>
  </message>
  <message>
   <source>All to 1</source>
   <translation>Alle auf 1</translation>
  </message>
  <message>
   <source>Save as recipe</source>
   <translation>Als Rezept sichern</translation>
  </message>
  <message>
   <source>Name</source>
   <translation>Name</translation>
  </message>
  <message>
   <source>Words: what it is good for</source>
   <translation>Worte: wofür es gut ist</translation>
  </message>
  <message>
   <source>Stands before the camera wherever it is taken</source>
   <translation>Steht vor der Kamera, wo immer es genommen wird</translation>
  </message>
  <message>
   <source>Places are kept as they lie before the camera now; off, they are those of the world.</source>
   <translation>Orte bleiben, wie sie jetzt vor der Kamera liegen; aus, es sind die der Welt.</translation>
  </message>
  <message>
   <source>Everything in metres stays in metres.</source>
   <translation>Alles in Metern bleibt in Metern.</translation>
  </message>
  <message>
   <source>Save recipe</source>
   <translation>Rezept sichern</translation>
  </message>
  <message>
   <source>it is damaged</source>
   <translation>es ist beschädigt</translation>
  </message>
  <message>
   <source>Unsaved work cannot be kept for recovery: </source>
   <translation>Ungesicherte Arbeit kann nicht zur Rettung behalten werden: </translation>
  </message>
  <message>
   <source>Reference: </source>
   <translation>Referenz: </translation>
  </message>
  <message>
   <source>noise %1 % before denoising</source>
   <translation>Rauschen %1 % vor dem Entrauschen</translation>
  </message>
  <message>
   <source>noise %1 %</source>
   <translation>Rauschen %1 %</translation>
  </message>
  <message>
   <source>Scopes</source>
   <translation>Messbilder</translation>
  </message>
  <message>
   <source>Drag a region on the small picture; a double-click, or Esc, takes the whole again.</source>
   <translation>Im kleinen Bild einen Ausschnitt ziehen; Doppelklick oder Esc nimmt wieder das Ganze.</translation>
  </message>
  <message>
   <source>Measured once the first full picture is there.</source>
   <translation>Gemessen, sobald das erste volle Bild da ist.</translation>
  </message>
  <message>
   <source>whole picture</source>
   <translation>ganzes Bild</translation>
  </message>
  <message>
   <source>%1 % of it</source>
   <translation>%1 % davon</translation>
  </message>
  <message>
   <source>%1 % black</source>
   <translation>%1 % schwarz</translation>
  </message>
  <message>
   <source>%1 % white</source>
   <translation>%1 % weiß</translation>
  </message>
  <message>
   <source>%1 to %2 stops</source>
   <translation>%1 bis %2 Blenden</translation>
  </message>
  <message>
   <source>Across the picture</source>
   <translation>Quer über das Bild</translation>
  </message>
  <message>
   <source>Tones</source>
   <translation>Töne</translation>
  </message>
  <message>
   <source>Tone by distance</source>
   <translation>Ton nach Abstand</translation>
  </message>
  <message>
   <source>%1 · %2%3 stops</source>
   <translation>%1 · %2%3 Blenden</translation>
  </message>
  <message>
   <source>Opening </source>
   <translation>Öffnen: </translation>
  </message>
  <message>
   <source>This project is open in another window (process %1 on %2, since %3). Saving asks first.</source>
   <translation>Dieses Projekt ist in einem anderen Fenster offen (Prozess %1 auf %2, seit %3). Beim Sichern wird gefragt.</translation>
  </message>
  <message>
   <source>Add </source>
   <translation>Hinzufügen: </translation>
  </message>
  <message>
   <source>Importing </source>
   <translation>Importieren: </translation>
  </message>
  <message>
   <source>Import </source>
   <translation>Importieren: </translation>
  </message>
  <message>
   <source>Place </source>
   <translation>Stellen: </translation>
  </message>
  <message>
   <source>The set's depth is not known yet: wait for the first picture, or bring a set or a plate with depth.</source>
   <translation>Die Tiefe des Sets ist noch nicht bekannt: auf das erste Bild warten, oder ein Set oder eine Plate mit Tiefe bringen.</translation>
  </message>
  <message>
   <source> from the set</source>
   <translation> vom Set</translation>
  </message>
  <message>
   <source>Collecting files</source>
   <translation>Dateien werden gesammelt</translation>
  </message>
  <message>
   <source>Collect files</source>
   <translation>Dateien sammeln</translation>
  </message>
  <message>
   <source>All files that were found lie beside the project already.</source>
   <translation>Alle gefundenen Dateien liegen schon beim Projekt.</translation>
  </message>
  <message>
   <source>%1 files, %2 MB, were copied beside the project.</source>
   <translation>%1 Dateien, %2 MB, wurden zum Projekt kopiert.</translation>
  </message>
  <message>
   <source> Save it to keep it so.</source>
   <translation> Sichern, damit es so bleibt.</translation>
  </message>
  <message>
   <source> “%1” is not there.</source>
   <translation> „%1“ ist nicht da.</translation>
  </message>
  <message>
   <source>Exporting a volume to</source>
   <translation>Ein Volumen exportieren nach</translation>
  </message>
  <message>
   <source>none of its frames is baked</source>
   <translation>keines ihrer Bilder ist gebacken</translation>
  </message>
  <message>
   <source>: with and without</source>
   <translation>: mit und ohne</translation>
  </message>
  <message>
   <source>Frame</source>
   <translation>Bild</translation>
  </message>
  <message>
   <source>Sounding</source>
   <translation>Lotung</translation>
  </message>
  <message>
   <source>Copy the numbers</source>
   <translation>Zahlen kopieren</translation>
  </message>
  <message>
   <source>Comma-separated values, a line for each distance.</source>
   <translation>Werte mit Komma getrennt, eine Zeile je Abstand.</translation>
  </message>
  <message>
   <source>Remove the pin</source>
   <translation>Nadel entfernen</translation>
  </message>
  <message>
   <source>Along the sight</source>
   <translation>Längs des Blicks</translation>
  </message>
  <message>
   <source>Light and transmittance by distance</source>
   <translation>Licht und Transmission nach Abstand</translation>
  </message>
  <message>
   <source>Why so dark, or bright</source>
   <translation>Warum so dunkel oder hell</translation>
  </message>
  <message>
   <source>What gives this pixel light and what takes it, in stops</source>
   <translation>Was diesem Bildpunkt Licht gibt und was es nimmt, in Blenden</translation>
  </message>
  <message>
   <source>Click in the Picture to drop a pin: its line of sight is sounded here.</source>
   <translation>Ins Bild klicken setzt eine Nadel: ihre Sichtlinie wird hier gelotet.</translation>
  </message>
  <message>
   <source>The pin is sounded with the next picture.</source>
   <translation>Die Nadel wird mit dem nächsten Bild gelotet.</translation>
  </message>
  <message>
   <source>eye</source>
   <translation>Auge</translation>
  </message>
  <message>
   <source>to the sky</source>
   <translation>zum Himmel</translation>
  </message>
  <message>
   <source>%1 stops</source>
   <translation>%1 Blenden</translation>
  </message>
  <message>
   <source>No light comes from here.</source>
   <translation>Von hier kommt kein Licht.</translation>
  </message>
  <message>
   <source>Nothing stands before it.</source>
   <translation>Nichts steht davor.</translation>
  </message>
  <message>
   <source>Gives light, and what it would be darker without</source>
   <translation>Gibt Licht, und was es ohne dunkler wäre</translation>
  </message>
  <message>
   <source>Takes light from what is behind</source>
   <translation>Nimmt Licht von dem, was dahinter ist</translation>
  </message>
  <message>
   <source>This pixel is %1 stops %2 the picture's mean.</source>
   <translation>Dieser Bildpunkt ist %1 Blenden %2 dem Mittel des Bildes.</translation>
  </message>
  <message>
   <source>under</source>
   <translation>unter</translation>
  </message>
  <message>
   <source>over</source>
   <translation>über</translation>
  </message>
  <message>
   <source>Checks · %1</source>
   <translation>Prüfungen · %1</translation>
  </message>
  <message>
   <source>Checks</source>
   <translation>Prüfungen</translation>
  </message>
  <message>
   <source>All is well</source>
   <translation>Alles ist gut</translation>
  </message>
  <message>
   <source>What has no effect, or hardly looks as meant, and what mends it</source>
   <translation>Was nichts bewirkt oder kaum so aussieht wie gemeint, und was es behebt</translation>
  </message>
  <message>
   <source>Preparing the picture · </source>
   <translation>Das Bild wird vorbereitet · </translation>
  </message>
  <message>
   <source>%1 tasks: </source>
   <translation>%1 Aufgaben: </translation>
  </message>
  <message>
   <source>Cancel…</source>
   <translation>Abbrechen…</translation>
  </message>
  <message>
   <source>first picture…</source>
   <translation>erstes Bild…</translation>
  </message>
  <message>
   <source>clean · %1 samples</source>
   <translation>sauber · %1 Samples</translation>
  </message>
  <message>
   <source>%1 of %2 samples · %3 s to clean</source>
   <translation>%1 von %2 Samples · %3 s bis sauber</translation>
  </message>
  <message>
   <source>Cancel: %1 (%2 %)</source>
   <translation>Abbrechen: %1 (%2 %)</translation>
  </message>
  <message>
   <source>   frames %1 to %2</source>
   <translation>   Bilder %1 bis %2</translation>
  </message>
  <message>
   <source>rate</source>
   <translation>Rate</translation>
  </message>
  <message>
   <source>How often a second.</source>
   <translation>Wie oft je Sekunde.</translation>
  </message>
  <message>
   <source>phase</source>
   <translation>Phase</translation>
  </message>
  <message>
   <source>Where in its turn it begins.</source>
   <translation>Wo in ihrem Lauf sie beginnt.</translation>
  </message>
  <message>
   <source>roughness</source>
   <translation>Rauheit</translation>
  </message>
  <message>
   <source>How much of faster movement is in it.</source>
   <translation>Wie viel schnellere Bewegung darin ist.</translation>
  </message>
  <message>
   <source>width</source>
   <translation>Breite</translation>
  </message>
  <message>
   <source>How much of the time it is up.</source>
   <translation>Wie viel der Zeit sie oben ist.</translation>
  </message>
  <message>
   <source>from frame</source>
   <translation>ab Bild</translation>
  </message>
  <message>
   <source>Where it begins.</source>
   <translation>Wo sie beginnt.</translation>
  </message>
  <message>
   <source>to frame</source>
   <translation>bis Bild</translation>
  </message>
  <message>
   <source>Where all of it is there.</source>
   <translation>Wo alles davon da ist.</translation>
  </message>
  <message>
   <source>Sway</source>
   <translation>Wanken</translation>
  </message>
  <message>
   <source>wanders about, as a hand does</source>
   <translation>schweift umher wie eine Hand</translation>
  </message>
  <message>
   <source>Swing</source>
   <translation>Schwingen</translation>
  </message>
  <message>
   <source>to and fro, evenly</source>
   <translation>hin und her, gleichmäßig</translation>
  </message>
  <message>
   <source>Pulse</source>
   <translation>Puls</translation>
  </message>
  <message>
   <source>rises and falls again and again</source>
   <translation>steigt und fällt wieder und wieder</translation>
  </message>
  <message>
   <source>Ramp</source>
   <translation>Rampe</translation>
  </message>
  <message>
   <source>rises once, and stays</source>
   <translation>steigt einmal und bleibt</translation>
  </message>
  <message>
   <source>Follows</source>
   <translation>Folgt</translation>
  </message>
  <message>
   <source>another parameter, times a factor</source>
   <translation>einer anderen Einstellung, mal einem Faktor</translation>
  </message>
  <message>
   <source>Stir %1: %2</source>
   <translation>Bewegung %1: %2</translation>
  </message>
  <message>
   <source>Add a stir</source>
   <translation>Bewegung hinzufügen</translation>
  </message>
  <message>
   <source>Leave as it is</source>
   <translation>Lassen, wie es ist</translation>
  </message>
  <message>
   <source>Take</source>
   <translation>Nehmen</translation>
  </message>
  <message>
   <source>Take away</source>
   <translation>Wegnehmen</translation>
  </message>
  <message>
   <source>factor</source>
   <translation>Faktor</translation>
  </message>
  <message>
   <source>amount</source>
   <translation>Betrag</translation>
  </message>
  <message>
   <source>One number for each of the three.</source>
   <translation>Eine Zahl für jede der drei.</translation>
  </message>
  <message>
   <source>How far it goes to either side.</source>
   <translation>Wie weit sie nach beiden Seiten geht.</translation>
  </message>
  <message>
   <source> is not understood: '</source>
   <translation> ist nicht zu verstehen: '</translation>
  </message>
  <message>
   <source>seed</source>
   <translation>Zufallszahl</translation>
  </message>
  <message>
   <source>Another number sways another way.</source>
   <translation>Eine andere Zahl wankt anders.</translation>
  </message>
  <message>
   <source>the seed must be a whole number</source>
   <translation>die Zufallszahl muss eine ganze Zahl sein</translation>
  </message>
  <message>
   <source>parameter</source>
   <translation>Einstellung</translation>
  </message>
  <message>
   <source>element.parameter; a field's menu copies its path.</source>
   <translation>element.einstellung; das Menü eines Feldes kopiert seinen Pfad.</translation>
  </message>
  <message>
   <source>Nothing is laid over it yet: add a stir.</source>
   <translation>Noch liegt nichts darüber: eine Bewegung hinzufügen.</translation>
  </message>
  <message>
   <source>Stir %1 %2</source>
   <translation>Bewegung %1 %2</translation>
  </message>
  <message>
   <source>Frames, rate and shutter</source>
   <translation>Bilder, Rate und Verschluss</translation>
  </message>
  <message>
   <source>May be negative.</source>
   <translation>Darf negativ sein.</translation>
  </message>
  <message>
   <source>Frames a second</source>
   <translation>Bilder je Sekunde</translation>
  </message>
  <message>
   <source>24, 25, 30, 23.976, or a fraction such as 24000/1001</source>
   <translation>24, 25, 30, 23,976 oder ein Bruch wie 24000/1001</translation>
  </message>
  <message>
   <source>Shutter angle</source>
   <translation>Verschlusswinkel</translation>
  </message>
  <message>
   <source>180° leaves it open for half a frame; 0 is no motion blur.</source>
   <translation>180° lässt ihn für ein halbes Bild offen; 0 ist keine Bewegungsunschärfe.</translation>
  </message>
  <message>
   <source>Shutter phase</source>
   <translation>Verschlussphase</translation>
  </message>
  <message>
   <source>When it opens, from the frame's own time on; −90° puts a 180° shutter about it.</source>
   <translation>Wann er öffnet, von der Zeit des Bildes an; −90° legt einen 180°-Verschluss um sie.</translation>
  </message>
  <message>
   <source>Pre-roll</source>
   <translation>Vorlauf</translation>
  </message>
  <message>
   <source>What is simulated before the first frame.</source>
   <translation>Was vor dem ersten Bild simuliert wird.</translation>
  </message>
  <message>
   <source>Loop</source>
   <translation>Schleife</translation>
  </message>
  <message>
   <source>Stirs come back after so long, exactly; “off” for no loop.</source>
   <translation>Bewegungen kommen nach so langer Zeit genau wieder; „off“ für keine Schleife.</translation>
  </message>
  <message>
   <source> must be a whole number within ten million</source>
   <translation> muss eine ganze Zahl bis zehn Millionen sein</translation>
  </message>
  <message>
   <source>the first frame</source>
   <translation>das erste Bild</translation>
  </message>
  <message>
   <source>the last frame</source>
   <translation>das letzte Bild</translation>
  </message>
  <message>
   <source>frames a second must lie within 1 to 1000</source>
   <translation>Bilder je Sekunde müssen zwischen 1 und 1000 liegen</translation>
  </message>
  <message>
   <source>the shutter's angle</source>
   <translation>der Verschlusswinkel</translation>
  </message>
  <message>
   <source>the shutter's phase</source>
   <translation>die Verschlussphase</translation>
  </message>
  <message>
   <source>the pre-roll</source>
   <translation>der Vorlauf</translation>
  </message>
  <message>
   <source>the loop</source>
   <translation>die Schleife</translation>
  </message>
  <message>
   <source>Frames and rate</source>
   <translation>Bilder und Rate</translation>
  </message>
  <message>
   <source>Frame that is looked at</source>
   <translation>Bild, das angesehen wird</translation>
  </message>
  <message>
   <source>The frame shown. Type one, or step with the arrow keys.</source>
   <translation>Das gezeigte Bild. Eines tippen oder mit den Pfeiltasten gehen.</translation>
  </message>
  <message>
   <source>Play</source>
   <translation>Abspielen</translation>
  </message>
  <message>
   <source>Play the range, round and round (F6)</source>
   <translation>Den Bereich abspielen, rundum (F6)</translation>
  </message>
  <message>
   <source>Record</source>
   <translation>Aufzeichnen</translation>
  </message>
  <message>
   <source>While on, every change makes a key at the frame shown (F9)</source>
   <translation>Solange an, macht jede Änderung einen Key beim gezeigten Bild (F9)</translation>
  </message>
  <message>
   <source>Keep run</source>
   <translation>Lauf behalten</translation>
  </message>
  <message>
   <source>Draw all frames of the range into memory; they then play at the true rate</source>
   <translation>Alle Bilder des Bereichs in den Speicher zeichnen; sie laufen dann mit der wahren Rate</translation>
  </message>
  <message>
   <source>   loop %1 s</source>
   <translation>   Schleife %1 s</translation>
  </message>
  <message>
   <source>%1: %2 of %3 frames/s</source>
   <translation>%1: %2 von %3 Bildern/s</translation>
  </message>
  <message>
   <source>kept</source>
   <translation>behalten</translation>
  </message>
  <message>
   <source>computed</source>
   <translation>gerechnet</translation>
  </message>
  <message>
   <source>frame %1 · %2 s</source>
   <translation>Bild %1 · %2 s</translation>
  </message>
  <message>
   <source>Write the kept run</source>
   <translation>Behaltenen Lauf schreiben</translation>
  </message>
  <message>
   <source>Movie (*.mp4 *.mkv *.mov);;Numbered pictures, name with #### (*.png)</source>
   <translation>Film (*.mp4 *.mkv *.mov);;Nummerierte Bilder, Name mit #### (*.png)</translation>
  </message>
  <message>
   <source>First frame is %1</source>
   <translation>Erstes Bild ist %1</translation>
  </message>
  <message>
   <source>Last frame is %1</source>
   <translation>Letztes Bild ist %1</translation>
  </message>
  <message>
   <source>Keep the run, %1 %2 a frame</source>
   <translation>Lauf behalten, je Bild %1 %2</translation>
  </message>
  <message>
   <source>sample</source>
   <translation>Sample</translation>
  </message>
  <message>
   <source>samples</source>
   <translation>Samples</translation>
  </message>
  <message>
   <source>Forget the kept run (%1 MB)</source>
   <translation>Behaltenen Lauf vergessen (%1 MB)</translation>
  </message>
  <message>
   <source>Drag points; click the curve to add one; Delete removes the chosen one.</source>
   <translation>Punkte ziehen; auf die Kurve klicken setzt einen; Entf entfernt den gewählten.</translation>
  </message>
  <message>
   <source>tone curve</source>
   <translation>Tonkurve</translation>
  </message>
  <message>
   <source>stops around middle grey → % of display light</source>
   <translation>Blenden um mittleres Grau → % des gezeigten Lichts</translation>
  </message>
  <message>
   <source>%1 stops → %2 %</source>
   <translation>%1 Blenden → %2 %</translation>
  </message>
  <message>
   <source>seen down to </source>
   <translation>zu sehen bis hinab zu </translation>
  </message>
  <message>
   <source>%1   %2 up   %3</source>
   <translation>%1   %2 hoch   %3</translation>
  </message>
  <message>
   <source>temperature</source>
   <translation>Temperatur</translation>
  </message>
  <message>
   <source>smoke</source>
   <translation>Rauch</translation>
  </message>
  <message>
   <source>speed</source>
   <translation>Geschwindigkeit</translation>
  </message>
  <message>
   <source>pressure</source>
   <translation>Druck</translation>
  </message>
  <message>
   <source>fuel</source>
   <translation>Brennstoff</translation>
  </message>
  <message>
   <source>no slice</source>
   <translation>kein Schnitt</translation>
  </message>
  <message>
   <source>A section through the chosen plume, as it is baked at this frame.</source>
   <translation>Ein Schnitt durch die gewählte Fahne, wie sie bei diesem Bild gebacken ist.</translation>
  </message>
  <message>
   <source>by metres</source>
   <translation>nach Metern</translation>
  </message>
  <message>
   <source>slice: %1</source>
   <translation>Schnitt: %1</translation>
  </message>
  <message>
   <source>slice</source>
   <translation>Schnitt</translation>
  </message>
  <message>
   <source>fastest %1 m/s</source>
   <translation>am schnellsten %1 m/s</translation>
  </message>
  <message>
   <source>no gas here</source>
   <translation>hier ist kein Gas</translation>
  </message>
  <message>
   <source>Transect</source>
   <translation>Schnitt</translation>
  </message>
  <message>
   <source>show all</source>
   <translation>alles zeigen</translation>
  </message>
  <message>
   <source>Shows all distances and heights again (double click).</source>
   <translation>Zeigt wieder alle Abstände und Höhen (Doppelklick).</translation>
  </message>
  <message>
   <source>Distances by equal factors or by equal steps (L).</source>
   <translation>Abstände nach gleichen Faktoren oder gleichen Schritten (L).</translation>
  </message>
  <message>
   <source>How waves spread about the wind, and their energy by length. Drag the tip to turn the wind, the edge to hold waves closer to it, the peak to make them longer.</source>
   <translation>Wie Wellen sich um den Wind verteilen, und ihre Energie nach Länge. Die Spitze ziehen dreht den Wind, der Rand hält Wellen enger an ihm, der Gipfel macht sie länger.</translation>
  </message>
  <message>
   <source>calm</source>
   <translation>ruhig</translation>
  </message>
  <message>
   <source>near</source>
   <translation>nah</translation>
  </message>
  <message>
   <source>farther</source>
   <translation>ferner</translation>
  </message>
  <message>
   <source>far</source>
   <translation>fern</translation>
  </message>
  <message>
   <source>working it out</source>
   <translation>wird ausgerechnet</translation>
  </message>
  <message>
   <source>this frame is not baked</source>
   <translation>dieses Bild ist nicht gebacken</translation>
  </message>
 </context>
 <context>
  <name>core</name>
  <message>
   <source>density</source>
   <translation>Dichte</translation>
  </message>
  <message>
   <source>Density</source>
   <translation>Dichte</translation>
  </message>
  <message>
   <source>Multiplies the density of every haze, fog bank, cloud deck and volume; 1 leaves them as they are.</source>
   <translation>Vervielfacht die Dichte allen Dunstes, aller Nebelbänke, Wolkendecken und Volumen; 1 lässt sie, wie sie sind.</translation>
  </message>
  <message>
   <source>visibility</source>
   <translation>Sichtweite</translation>
  </message>
  <message>
   <source>Scattering</source>
   <translation>Streuung</translation>
  </message>
  <message>
   <source>How far one sees through it: contrast falls to 5 % there. Extinction is 2.996 / visibility.</source>
   <translation>Wie weit man hindurchsieht: dort ist der Kontrast auf 5 % gefallen. Extinktion = 2,996 / Sichtweite.</translation>
  </message>
  <message>
   <source>thins over</source>
   <translation>dünnt aus über</translation>
  </message>
  <message>
   <source>Shape</source>
   <translation>Form</translation>
  </message>
  <message>
   <source>Height over which the density falls to 37 %.</source>
   <translation>Höhe, über die die Dichte auf 37 % fällt.</translation>
  </message>
  <message>
   <source>form</source>
   <translation>Form</translation>
  </message>
  <message>
   <source>Thinning with height, or even up to a ceiling.</source>
   <translation>Mit der Höhe dünner, oder gleichmäßig bis zu einer Decke.</translation>
  </message>
  <message>
   <source>thinning</source>
   <translation>ausdünnend</translation>
  </message>
  <message>
   <source>uniform</source>
   <translation>gleichmäßig</translation>
  </message>
  <message>
   <source>base</source>
   <translation>Unterkante</translation>
  </message>
  <message>
   <source>Height at which the visibility holds.</source>
   <translation>Höhe, in der die Sichtweite gilt.</translation>
  </message>
  <message>
   <source>ceiling</source>
   <translation>Decke</translation>
  </message>
  <message>
   <source>Height above which the air is clear; sun and sky must come down through all below it.</source>
   <translation>Höhe, über der die Luft klar ist; Sonne und Himmel müssen durch alles darunter herab.</translation>
  </message>
  <message>
   <source>clear around</source>
   <translation>klar ringsum</translation>
  </message>
  <message>
   <source>Around the camera there is none of it as far as this. Not physical: for a crisp foreground.</source>
   <translation>Um die Kamera ist so weit nichts davon. Nicht physikalisch: für einen klaren Vordergrund.</translation>
  </message>
  <message>
   <source>albedo</source>
   <translation>Albedo</translation>
  </message>
  <message>
   <source>Share of the extinguished light that is scattered; the rest is absorbed.</source>
   <translation>Anteil des ausgelöschten Lichts, der gestreut wird; der Rest wird verschluckt.</translation>
  </message>
  <message>
   <source>anisotropy g</source>
   <translation>Anisotropie g</translation>
  </message>
  <message>
   <source>Mean cosine of scattering: 0 evenly around, toward 1 straight on (bright around the sun).</source>
   <translation>Mittlerer Kosinus der Streuung: 0 ringsum gleich, gegen 1 geradeaus (hell um die Sonne).</translation>
  </message>
  <message>
   <source>spread by</source>
   <translation>verteilt nach</translation>
  </message>
  <message>
   <source>How scattered light is spread: by one number g, by two lobes of their own g, or by the size of the droplets.</source>
   <translation>Wie gestreutes Licht sich verteilt: nach einer Zahl g, nach zwei Keulen mit je eigenem g, oder nach der Größe der Tröpfchen.</translation>
  </message>
  <message>
   <source>g</source>
   <translation>g</translation>
  </message>
  <message>
   <source>two</source>
   <translation>zwei</translation>
  </message>
  <message>
   <source>droplets</source>
   <translation>Tröpfchen</translation>
  </message>
  <message>
   <source>second lobe g</source>
   <translation>zweite Keule g</translation>
  </message>
  <message>
   <source>Mean cosine of the second lobe; below 0 it throws light back.</source>
   <translation>Mittlerer Kosinus der zweiten Keule; unter 0 wirft sie Licht zurück.</translation>
  </message>
  <message>
   <source>second lobe's share</source>
   <translation>Anteil zweite Keule</translation>
  </message>
  <message>
   <source>How much of the light goes by the second lobe.</source>
   <translation>Wie viel des Lichts über die zweite Keule geht.</translation>
  </message>
  <message>
   <source>droplet size</source>
   <translation>Tröpfchengröße</translation>
  </message>
  <message>
   <source>Diameter of the water droplets, 5 to 50 µm: larger ones send more of the light straight on.</source>
   <translation>Durchmesser der Wassertröpfchen, 5 bis 50 µm: größere lassen mehr Licht geradeaus.</translation>
  </message>
  <message>
   <source>albedo's colour</source>
   <translation>Farbe der Albedo</translation>
  </message>
  <message>
   <source>How much of the albedo's colour shows in the light; 0 leaves its brightness alone.</source>
   <translation>Wie viel von der Farbe der Albedo im Licht zu sehen ist; 0 lässt nur ihre Helligkeit.</translation>
  </message>
  <message>
   <source>tint</source>
   <translation>Tönung</translation>
  </message>
  <message>
   <source>Multiplies the light it scatters; not physical, white leaves it.</source>
   <translation>Vervielfacht das gestreute Licht; nicht physikalisch, Weiß lässt es.</translation>
  </message>
  <message>
   <source>ambient</source>
   <translation>Umgebung</translation>
  </message>
  <message>
   <source>Scales what it takes from the sky and from around; 1 is physical.</source>
   <translation>Skaliert, was es vom Himmel und von ringsum nimmt; 1 ist physikalisch.</translation>
  </message>
  <message>
   <source>clean air</source>
   <translation>reine Luft</translation>
  </message>
  <message>
   <source>Share of the extinction (for green) that is air itself, not droplets: it scatters blue far more than red, so that far hills go blue and what shines through warm.</source>
   <translation>Anteil der Extinktion (bei Grün), der die Luft selbst ist, keine Tröpfchen: sie streut Blau weit stärker als Rot, sodass ferne Hügel blau werden und was hindurchscheint warm.</translation>
  </message>
  <message>
   <source>top</source>
   <translation>Oberkante</translation>
  </message>
  <message>
   <source>Height at which the bank ends.</source>
   <translation>Höhe, in der die Bank endet.</translation>
  </message>
  <message>
   <source>A layer without sides, fog that lies on the ground, a box, a sphere, an upright cylinder, or the inside of a set object.</source>
   <translation>Eine Schicht ohne Seiten, Nebel, der auf dem Boden liegt, ein Quader, eine Kugel, ein stehender Zylinder oder das Innere eines Set-Objekts.</translation>
  </message>
  <message>
   <source>layer</source>
   <translation>Schicht</translation>
  </message>
  <message>
   <source>ground</source>
   <translation>Boden</translation>
  </message>
  <message>
   <source>box</source>
   <translation>Quader</translation>
  </message>
  <message>
   <source>sphere</source>
   <translation>Kugel</translation>
  </message>
  <message>
   <source>cylinder</source>
   <translation>Zylinder</translation>
  </message>
  <message>
   <source>object</source>
   <translation>Objekt</translation>
  </message>
  <message>
   <source>above ground</source>
   <translation>über Boden</translation>
  </message>
  <message>
   <source>How high it reaches above the smoothed ground; at 0 and below it fills hollows alone.</source>
   <translation>Wie hoch sie über den geglätteten Boden reicht; bei 0 und darunter füllt sie nur Mulden.</translation>
  </message>
  <message>
   <source>ground smoothed</source>
   <translation>Boden geglättet</translation>
  </message>
  <message>
   <source>Over which length the ground is evened: longer lets the fog's top lie level, deep in hollows and thin on rises.</source>
   <translation>Über welche Länge der Boden geglättet wird: länger lässt die Oberkante eben liegen, tief in Mulden und dünn auf Kuppen.</translation>
  </message>
  <message>
   <source>passes over</source>
   <translation>übergeht</translation>
  </message>
  <message>
   <source>What is narrower than this and stands up (posts, trees, a bridge) is no ground.</source>
   <translation>Was schmaler als dies aufragt (Pfosten, Bäume, eine Brücke), ist kein Boden.</translation>
  </message>
  <message>
   <source>The set object whose inside it fills; hide the object itself on its own card.</source>
   <translation>Das Set-Objekt, dessen Inneres sie füllt; das Objekt selbst wird auf seiner Karte verborgen.</translation>
  </message>
  <message>
   <source>upward</source>
   <translation>aufwärts</translation>
  </message>
  <message>
   <source>The direction in which base and top are measured: 0 1 0 is up, 1 0 0 makes the layer a wall.</source>
   <translation>Richtung, in der Unter- und Oberkante gemessen werden: 0 1 0 ist aufwärts, 1 0 0 macht aus der Schicht eine Wand.</translation>
  </message>
  <message>
   <source>Height at which the bank begins.</source>
   <translation>Höhe, in der die Bank beginnt.</translation>
  </message>
  <message>
   <source>How much of its upper part thins to nothing; never more than its height.</source>
   <translation>Wie viel ihres oberen Teils bis zu nichts ausdünnt; nie mehr als ihre Höhe.</translation>
  </message>
  <message>
   <source>surface in waves</source>
   <translation>Oberfläche wogt</translation>
  </message>
  <message>
   <source>How far its surface rises and sinks about its top; 0: it is level. The waves drift with its pattern.</source>
   <translation>Wie weit ihre Oberfläche um die Oberkante steigt und sinkt; 0: sie ist eben. Die Wellen treiben mit ihrem Muster.</translation>
  </message>
  <message>
   <source>wave length</source>
   <translation>Wellenlänge</translation>
  </message>
  <message>
   <source>How far apart the waves of its surface are.</source>
   <translation>Wie weit die Wellen ihrer Oberfläche auseinanderliegen.</translation>
  </message>
  <message>
   <source>centre</source>
   <translation>Mitte</translation>
  </message>
  <message>
   <source>Its middle.</source>
   <translation>Seine Mitte.</translation>
  </message>
  <message>
   <source>size</source>
   <translation>Größe</translation>
  </message>
  <message>
   <source>Its width, height and depth.</source>
   <translation>Breite, Höhe und Tiefe.</translation>
  </message>
  <message>
   <source>turn</source>
   <translation>Drehung</translation>
  </message>
  <message>
   <source>Turn about the vertical.</source>
   <translation>Drehung um die Senkrechte.</translation>
  </message>
  <message>
   <source>goes with</source>
   <translation>geht mit</translation>
  </message>
  <message>
   <source>A set it is fixed to: its middle and turn are then in that set's own metres and move with it.</source>
   <translation>Ein Set, an dem es hängt: Mitte und Drehung zählen dann in dessen eigenen Metern und gehen mit.</translation>
  </message>
  <message>
   <source>soft edge</source>
   <translation>weicher Rand</translation>
  </message>
  <message>
   <source>How far inside its faces it thins to nothing.</source>
   <translation>Wie weit innerhalb seiner Flächen es bis zu nichts ausdünnt.</translation>
  </message>
  <message>
   <source>far end</source>
   <translation>fernes Ende</translation>
  </message>
  <message>
   <source>Ends</source>
   <translation>Enden</translation>
  </message>
  <message>
   <source>Density at the top (of a sphere: the rim) as a share of that at the foot (the middle); 100 % is even.</source>
   <translation>Dichte oben (bei einer Kugel: am Rand) als Anteil derer am Fuß (in der Mitte); 100 % ist gleichmäßig.</translation>
  </message>
  <message>
   <source>blend at</source>
   <translation>Übergang bei</translation>
  </message>
  <message>
   <source>Where between the ends the change has half happened.</source>
   <translation>Wo zwischen den Enden der Wechsel halb geschehen ist.</translation>
  </message>
  <message>
   <source>blend over</source>
   <translation>Übergang über</translation>
  </message>
  <message>
   <source>Over which share of the way from end to end it happens.</source>
   <translation>Über welchen Anteil des Weges von Ende zu Ende er geschieht.</translation>
  </message>
  <message>
   <source>blend curve</source>
   <translation>Übergangskurve</translation>
  </message>
  <message>
   <source>1 is straight; more holds the foot's density longer, less leaves it sooner.</source>
   <translation>1 ist gerade; mehr hält die Dichte des Fußes länger, weniger lässt sie früher.</translation>
  </message>
  <message>
   <source>scale</source>
   <translation>Maßstab</translation>
  </message>
  <message>
   <source>Noise</source>
   <translation>Rauschen</translation>
  </message>
  <message>
   <source>Size of the largest wisps.</source>
   <translation>Größe der größten Schwaden.</translation>
  </message>
  <message>
   <source>contrast</source>
   <translation>Kontrast</translation>
  </message>
  <message>
   <source>0: even. Up to 1 the mean density stays; above, gaps open.</source>
   <translation>0: gleichmäßig. Bis 1 bleibt die mittlere Dichte; darüber öffnen sich Lücken.</translation>
  </message>
  <message>
   <source>never below</source>
   <translation>nie unter</translation>
  </message>
  <message>
   <source>Noise makes it no denser than this visibility.</source>
   <translation>Das Rauschen macht es nicht dichter als diese Sichtweite.</translation>
  </message>
  <message>
   <source>octaves</source>
   <translation>Oktaven</translation>
  </message>
  <message>
   <source>Layers of detail, each finer.</source>
   <translation>Lagen von Einzelheiten, jede feiner.</translation>
  </message>
  <message>
   <source>gain</source>
   <translation>Verstärkung</translation>
  </message>
  <message>
   <source>Strength of each octave relative to the one before.</source>
   <translation>Stärke jeder Oktave im Verhältnis zur vorigen.</translation>
  </message>
  <message>
   <source>lacunarity</source>
   <translation>Lakunarität</translation>
  </message>
  <message>
   <source>Fineness of each octave relative to the one before.</source>
   <translation>Feinheit jeder Oktave im Verhältnis zur vorigen.</translation>
  </message>
  <message>
   <source>seed</source>
   <translation>Zufallszahl</translation>
  </message>
  <message>
   <source>Another number, another pattern.</source>
   <translation>Eine andere Zahl, ein anderes Muster.</translation>
  </message>
  <message>
   <source>drift</source>
   <translation>Drift</translation>
  </message>
  <message>
   <source>Speed of the pattern.</source>
   <translation>Geschwindigkeit des Musters.</translation>
  </message>
  <message>
   <source>toward</source>
   <translation>Richtung</translation>
  </message>
  <message>
   <source>Heading of the drift, clockwise from −Z seen from above.</source>
   <translation>Richtung der Drift, im Uhrzeigersinn ab −Z, von oben gesehen.</translation>
  </message>
  <message>
   <source>warp</source>
   <translation>Verzug</translation>
  </message>
  <message>
   <source>How far slower wisps pull the pattern about: 0 is plain, 1 is torn.</source>
   <translation>Wie weit langsamere Schwaden das Muster verziehen: 0 ist schlicht, 1 zerrissen.</translation>
  </message>
  <message>
   <source>boil</source>
   <translation>Wallen</translation>
  </message>
  <message>
   <source>How often a second the pattern changes in place.</source>
   <translation>Wie oft je Sekunde das Muster an Ort und Stelle ein anderes wird.</translation>
  </message>
  <message>
   <source>carried by</source>
   <translation>getragen von</translation>
  </message>
  <message>
   <source>A Wind that carries it along, in place of its own drift.</source>
   <translation>Ein Wind, der es trägt, statt seiner eigenen Drift.</translation>
  </message>
  <message>
   <source>stretch</source>
   <translation>Streckung</translation>
  </message>
  <message>
   <source>Lengthens the wisps along X, Y and Z: 4 0.5 4 lays them flat.</source>
   <translation>Streckt die Schwaden längs X, Y und Z: 4 0,5 4 legt sie flach.</translation>
  </message>
  <message>
   <source>kind</source>
   <translation>Art</translation>
  </message>
  <message>
   <source>Sets the other numbers as such clouds have them; they may be changed after that.</source>
   <translation>Setzt die übrigen Zahlen, wie solche Wolken sie haben; danach dürfen sie geändert werden.</translation>
  </message>
  <message>
   <source>cumulus</source>
   <translation>Kumulus</translation>
  </message>
  <message>
   <source>stratocumulus</source>
   <translation>Stratokumulus</translation>
  </message>
  <message>
   <source>stratus</source>
   <translation>Stratus</translation>
  </message>
  <message>
   <source>altocumulus</source>
   <translation>Altokumulus</translation>
  </message>
  <message>
   <source>nimbostratus</source>
   <translation>Nimbostratus</translation>
  </message>
  <message>
   <source>coverage</source>
   <translation>Bedeckung</translation>
  </message>
  <message>
   <source>Share of the sky that it covers.</source>
   <translation>Anteil des Himmels, den sie bedeckt.</translation>
  </message>
  <message>
   <source>Height of its underside.</source>
   <translation>Höhe ihrer Unterseite.</translation>
  </message>
  <message>
   <source>thickness</source>
   <translation>Dicke</translation>
  </message>
  <message>
   <source>From its underside to the highest it may reach.</source>
   <translation>Von der Unterseite bis zum Höchsten, das sie erreichen darf.</translation>
  </message>
  <message>
   <source>heaped</source>
   <translation>gehäuft</translation>
  </message>
  <message>
   <source>0: an even sheet; 100 %: flat below, heaped above.</source>
   <translation>0: eine gleichmäßige Schicht; 100 %: unten flach, oben gehäuft.</translation>
  </message>
  <message>
   <source>gathered</source>
   <translation>geschart</translation>
  </message>
  <message>
   <source>0: clouds stand evenly; more: close here, few there.</source>
   <translation>0: die Wolken stehen gleichmäßig; mehr: hier dicht, dort spärlich.</translation>
  </message>
  <message>
   <source>in rolls</source>
   <translation>in Walzen</translation>
  </message>
  <message>
   <source>How far they are drawn out along the drift.</source>
   <translation>Wie weit sie längs der Drift gestreckt sind.</translation>
  </message>
  <message>
   <source>ragged base</source>
   <translation>zerfranste Basis</translation>
  </message>
  <message>
   <source>How unevenly its underside hangs.</source>
   <translation>Wie ungleich ihre Unterseite hängt.</translation>
  </message>
  <message>
   <source>fall streaks</source>
   <translation>Fallstreifen</translation>
  </message>
  <message>
   <source>How far what falls from it comes down before it is gone; 0: nothing falls.</source>
   <translation>Wie tief herabkommt, was aus ihr fällt, bis es vergangen ist; 0: nichts fällt.</translation>
  </message>
  <message>
   <source>their thickness</source>
   <translation>ihre Dicke</translation>
  </message>
  <message>
   <source>100 %: a heavy shower, of a seventeenth of the cloud's own density.</source>
   <translation>100 %: ein kräftiger Schauer, ein Siebzehntel der Dichte der Wolke.</translation>
  </message>
  <message>
   <source>casts shadow</source>
   <translation>wirft Schatten</translation>
  </message>
  <message>
   <source>Shades the set and the air below.</source>
   <translation>Beschattet das Set und die Luft darunter.</translation>
  </message>
  <message>
   <source>clouds</source>
   <translation>Wolken</translation>
  </message>
  <message>
   <source>Size of single clouds.</source>
   <translation>Größe einzelner Wolken.</translation>
  </message>
  <message>
   <source>wisps</source>
   <translation>Fetzen</translation>
  </message>
  <message>
   <source>Size of the wisps at their edges.</source>
   <translation>Größe der Fetzen an ihren Rändern.</translation>
  </message>
  <message>
   <source>erosion</source>
   <translation>Zehrung</translation>
  </message>
  <message>
   <source>How far wisps eat into the edges.</source>
   <translation>Wie weit Fetzen in die Ränder greifen.</translation>
  </message>
  <message>
   <source>Another number, another sky.</source>
   <translation>Eine andere Zahl, ein anderer Himmel.</translation>
  </message>
  <message>
   <source>Speed of the deck.</source>
   <translation>Geschwindigkeit der Decke.</translation>
  </message>
  <message>
   <source>How often a second the clouds change in place.</source>
   <translation>Wie oft je Sekunde die Wolken an Ort und Stelle andere werden.</translation>
  </message>
  <message>
   <source>made from</source>
   <translation>gemacht aus</translation>
  </message>
  <message>
   <source>Source</source>
   <translation>Quelle</translation>
  </message>
  <message>
   <source>An OpenVDB file, what a set object encloses, or a plain body.</source>
   <translation>Eine OpenVDB-Datei, das Innere eines Set-Objekts oder ein schlichter Körper.</translation>
  </message>
  <message>
   <source>file</source>
   <translation>Datei</translation>
  </message>
  <message>
   <source>ball</source>
   <translation>Kugel</translation>
  </message>
  <message>
   <source>The OpenVDB file, relative to the project.</source>
   <translation>Die OpenVDB-Datei, relativ zum Projekt.</translation>
  </message>
  <message>
   <source>density grid</source>
   <translation>Dichtegitter</translation>
  </message>
  <message>
   <source>Which of the file's grids is the density; empty: the one whose name says so.</source>
   <translation>Welches Gitter der Datei die Dichte ist; leer: das, dessen Name es sagt.</translation>
  </message>
  <message>
   <source>heat grid</source>
   <translation>Wärmegitter</translation>
  </message>
  <message>
   <source>Glow</source>
   <translation>Glühen</translation>
  </message>
  <message>
   <source>Which grid glows; empty: temperature or flame by its name.</source>
   <translation>Welches Gitter glüht; leer: Temperatur oder Flamme nach dem Namen.</translation>
  </message>
  <message>
   <source>numbered frames</source>
   <translation>nummerierte Bilder</translation>
  </message>
  <message>
   <source>Takes the file's last number as the frame.</source>
   <translation>Nimmt die letzte Zahl der Datei als Bildnummer.</translation>
  </message>
  <message>
   <source>offset</source>
   <translation>Versatz</translation>
  </message>
  <message>
   <source>Added to the frame's number.</source>
   <translation>Wird zur Bildnummer addiert.</translation>
  </message>
  <message>
   <source>speed</source>
   <translation>Geschwindigkeit</translation>
  </message>
  <message>
   <source>Files a frame; 1 is as they come.</source>
   <translation>Dateien je Bild; 1 ist, wie sie kommen.</translation>
  </message>
  <message>
   <source>before and after</source>
   <translation>davor und danach</translation>
  </message>
  <message>
   <source>Beyond the files there are: the first or last stays, they begin anew, or there is nothing.</source>
   <translation>Jenseits der Dateien: die erste oder letzte bleibt, sie beginnen von vorn, oder es ist nichts da.</translation>
  </message>
  <message>
   <source>hold</source>
   <translation>halten</translation>
  </message>
  <message>
   <source>loop</source>
   <translation>wiederholen</translation>
  </message>
  <message>
   <source>nothing</source>
   <translation>nichts</translation>
  </message>
  <message>
   <source>missing frames</source>
   <translation>fehlende Bilder</translation>
  </message>
  <message>
   <source>A frame whose file is not there: the one before it stays, or there is nothing.</source>
   <translation>Ein Bild, dessen Datei fehlt: das vorige bleibt, oder es ist nichts da.</translation>
  </message>
  <message>
   <source>motion blur</source>
   <translation>Bewegungsunschärfe</translation>
  </message>
  <message>
   <source>Share of a frame that the shutter is open: matter is spread along its way by the velocity grid; 0 leaves it sharp.</source>
   <translation>Anteil eines Bildes, den der Verschluss offen ist: Stoff wird längs seines Weges nach dem Geschwindigkeitsgitter verteilt; 0 lässt ihn scharf.</translation>
  </message>
  <message>
   <source>velocity grid</source>
   <translation>Geschwindigkeitsgitter</translation>
  </message>
  <message>
   <source>Which grid says how fast it moves; empty: the one whose name says so.</source>
   <translation>Welches Gitter sagt, wie schnell er sich bewegt; leer: das, dessen Name es sagt.</translation>
  </message>
  <message>
   <source>velocity ×</source>
   <translation>Geschwindigkeit ×</translation>
  </message>
  <message>
   <source>Multiplies the velocity; 1 where the file counts metres a second.</source>
   <translation>Vervielfacht die Geschwindigkeit; 1, wo die Datei Meter je Sekunde zählt.</translation>
  </message>
  <message>
   <source>least voxel</source>
   <translation>kleinstes Voxel</translation>
  </message>
  <message>
   <source>Works with voxels at least this large, halved from the file's; 0 takes them as they are.</source>
   <translation>Arbeitet mit mindestens so großen Voxeln, aus denen der Datei halbiert; 0 nimmt sie, wie sie sind.</translation>
  </message>
  <message>
   <source>The set object whose inside becomes fog; hide the object itself on its own card.</source>
   <translation>Das Set-Objekt, dessen Inneres Nebel wird; das Objekt selbst wird auf seiner Karte verborgen.</translation>
  </message>
  <message>
   <source>voxels</source>
   <translation>Voxel</translation>
  </message>
  <message>
   <source>Size of its voxels; no side gets more than 256 of them.</source>
   <translation>Größe seiner Voxel; keine Seite bekommt mehr als 256.</translation>
  </message>
  <message>
   <source>How far under the surface it takes to full density.</source>
   <translation>Wie weit unter der Oberfläche die Dichte voll wird.</translation>
  </message>
  <message>
   <source>hollow</source>
   <translation>hohl</translation>
  </message>
  <message>
   <source>How much of the density is missing in the very middle.</source>
   <translation>Wie viel der Dichte ganz in der Mitte fehlt.</translation>
  </message>
  <message>
   <source>density curve</source>
   <translation>Dichtekurve</translation>
  </message>
  <message>
   <source>Density over what edge and hollow leave of it.</source>
   <translation>Dichte über dem, was Rand und Hohlraum davon lassen.</translation>
  </message>
  <message>
   <source>noise scale</source>
   <translation>Rauschgröße</translation>
  </message>
  <message>
   <source>noise contrast</source>
   <translation>Rauschkontrast</translation>
  </message>
  <message>
   <source>0: even. Above 1 gaps open.</source>
   <translation>0: gleichmäßig. Über 1 öffnen sich Lücken.</translation>
  </message>
  <message>
   <source>density over file's</source>
   <translation>Dichte über Dateiwert</translation>
  </message>
  <message>
   <source>Density over the grid's value, both as shares of its largest.</source>
   <translation>Dichte über dem Wert des Gitters, beide als Anteile ihres Größten.</translation>
  </message>
  <message>
   <source>when it gets denser</source>
   <translation>wenn es dichter wird</translation>
  </message>
  <message>
   <source>Keep albedo: scattering and absorption grow together. Keep scattering: only absorption grows. Free: each has its own number and colour.</source>
   <translation>Albedo behalten: Streuung und Absorption wachsen gemeinsam. Streuung behalten: nur die Absorption wächst. Frei: jede hat Zahl und Farbe für sich.</translation>
  </message>
  <message>
   <source>scattering</source>
   <translation>Streuung</translation>
  </message>
  <message>
   <source>free</source>
   <translation>frei</translation>
  </message>
  <message>
   <source>scatters</source>
   <translation>streut</translation>
  </message>
  <message>
   <source>Scattering coefficient where the grid is 1.</source>
   <translation>Streukoeffizient, wo das Gitter 1 ist.</translation>
  </message>
  <message>
   <source>absorbs</source>
   <translation>verschluckt</translation>
  </message>
  <message>
   <source>Absorption coefficient where the grid is 1.</source>
   <translation>Absorptionskoeffizient, wo das Gitter 1 ist.</translation>
  </message>
  <message>
   <source>scatters by colour</source>
   <translation>streut je Farbe</translation>
  </message>
  <message>
   <source>Scattering of each channel, as a share of the number.</source>
   <translation>Streuung jedes Kanals als Anteil der Zahl.</translation>
  </message>
  <message>
   <source>absorbs by colour</source>
   <translation>schluckt je Farbe</translation>
  </message>
  <message>
   <source>Absorption of each channel, as a share of the number: what is low here comes through.</source>
   <translation>Absorption jedes Kanals als Anteil der Zahl: was hier niedrig ist, kommt durch.</translation>
  </message>
  <message>
   <source>scattering kept</source>
   <translation>behaltene Streuung</translation>
  </message>
  <message>
   <source>Share of its scattering that stays, over the grid's value as a share of its largest.</source>
   <translation>Anteil seiner Streuung, der bleibt, über dem Wert des Gitters als Anteil seines Größten.</translation>
  </message>
  <message>
   <source>absorption kept</source>
   <translation>behaltene Absorption</translation>
  </message>
  <message>
   <source>Share of its absorption that stays, over the grid's value as a share of its largest.</source>
   <translation>Anteil seiner Absorption, der bleibt, über dem Wert des Gitters als Anteil seines Größten.</translation>
  </message>
  <message>
   <source>shadow density</source>
   <translation>Schattendichte</translation>
  </message>
  <message>
   <source>Scales the shadow it casts on set and air; not physical, 1 leaves it.</source>
   <translation>Skaliert den Schatten auf Set und Luft; nicht physikalisch, 1 lässt ihn.</translation>
  </message>
  <message>
   <source>position</source>
   <translation>Ort</translation>
  </message>
  <message>
   <source>Place</source>
   <translation>Ort</translation>
  </message>
  <message>
   <source>Where the file's origin stands.</source>
   <translation>Wo der Ursprung der Datei steht.</translation>
  </message>
  <message>
   <source>Turn about the vertical, clockwise from above.</source>
   <translation>Drehung um die Senkrechte, im Uhrzeigersinn von oben.</translation>
  </message>
  <message>
   <source>pitch</source>
   <translation>Nicken</translation>
  </message>
  <message>
   <source>Before the turn: nods about its X.</source>
   <translation>Vor der Drehung: nickt um sein X.</translation>
  </message>
  <message>
   <source>roll</source>
   <translation>Rollen</translation>
  </message>
  <message>
   <source>Before the turn: leans about its Z.</source>
   <translation>Vor der Drehung: neigt sich um sein Z.</translation>
  </message>
  <message>
   <source>Metres for one of the file's.</source>
   <translation>Meter für einen der Datei.</translation>
  </message>
  <message>
   <source>A set it is fixed to: its place is then in that set's own metres and moves with it.</source>
   <translation>Ein Set, an dem es hängt: der Ort zählt dann in dessen eigenen Metern und geht mit.</translation>
  </message>
  <message>
   <source>glow</source>
   <translation>Glühen</translation>
  </message>
  <message>
   <source>How hot matter shines: not at all, as a blackbody of its temperature, or by colours over a grid's value.</source>
   <translation>Wie heißer Stoff leuchtet: gar nicht, als schwarzer Körper seiner Temperatur, oder in Farben über dem Wert eines Gitters.</translation>
  </message>
  <message>
   <source>none</source>
   <translation>keine</translation>
  </message>
  <message>
   <source>blackbody</source>
   <translation>schwarzer Körper</translation>
  </message>
  <message>
   <source>ramp</source>
   <translation>Verlauf</translation>
  </message>
  <message>
   <source>kelvin a unit</source>
   <translation>Kelvin je Einheit</translation>
  </message>
  <message>
   <source>What the grid's value 1 means in kelvin.</source>
   <translation>Was der Gitterwert 1 in Kelvin heißt.</translation>
  </message>
  <message>
   <source>dark below</source>
   <translation>dunkel unter</translation>
  </message>
  <message>
   <source>Cooler matter does not shine.</source>
   <translation>Kühlerer Stoff leuchtet nicht.</translation>
  </message>
  <message>
   <source>emitted</source>
   <translation>abgegeben</translation>
  </message>
  <message>
   <source>How much of a blackbody's light a metre of it gives off [1/m].</source>
   <translation>Wie viel vom Licht eines schwarzen Körpers ein Meter davon abgibt [1/m].</translation>
  </message>
  <message>
   <source>colours</source>
   <translation>Farben</translation>
  </message>
  <message>
   <source>Light given off over the grid's value; the first stop stays dark.</source>
   <translation>Abgegebenes Licht über dem Wert des Gitters; die erste Stufe bleibt dunkel.</translation>
  </message>
  <message>
   <source>top value</source>
   <translation>höchster Wert</translation>
  </message>
  <message>
   <source>The grid's value at the last colour.</source>
   <translation>Der Gitterwert bei der letzten Farbe.</translation>
  </message>
  <message>
   <source>brightness</source>
   <translation>Helligkeit</translation>
  </message>
  <message>
   <source>Doubles with each stop.</source>
   <translation>Verdoppelt sich mit jeder Blende.</translation>
  </message>
  <message>
   <source>lights others</source>
   <translation>erhellt andere</translation>
  </message>
  <message>
   <source>Scales what its glow gives to set, air and other volumes; 1 is what is seen.</source>
   <translation>Skaliert, was das Glühen Set, Luft und anderen Volumen gibt; 1 ist, was man sieht.</translation>
  </message>
  <message>
   <source>volume</source>
   <translation>Volumen</translation>
  </message>
  <message>
   <source>Colour</source>
   <translation>Farbe</translation>
  </message>
  <message>
   <source>The volume that it colours.</source>
   <translation>Das Volumen, das sie färbt.</translation>
  </message>
  <message>
   <source>From the first place to the last; where a colour is not opaque the volume's own shows.</source>
   <translation>Vom ersten Ort zum letzten; wo eine Farbe nicht deckt, zeigt sich die des Volumens.</translation>
  </message>
  <message>
   <source>share</source>
   <translation>Anteil</translation>
  </message>
  <message>
   <source>How much of it is laid on.</source>
   <translation>Wie viel davon aufgetragen wird.</translation>
  </message>
  <message>
   <source>goes to</source>
   <translation>wirkt auf</translation>
  </message>
  <message>
   <source>Scattering: the light it sends on takes the colour. Absorption: light that passes through takes it, by each mean free path as much as the colour says.</source>
   <translation>Streuung: das weitergegebene Licht nimmt die Farbe an. Absorption: durchgehendes Licht nimmt sie an, je mittlere freie Weglänge so viel, wie die Farbe sagt.</translation>
  </message>
  <message>
   <source>absorption</source>
   <translation>Absorption</translation>
  </message>
  <message>
   <source>by</source>
   <translation>nach</translation>
  </message>
  <message>
   <source>Where</source>
   <translation>Wo</translation>
  </message>
  <message>
   <source>What decides on the colour: height over the volume's foot, metres along an axis, metres from a point or from a set object's surface, the density's value, the heat's, or noise.</source>
   <translation>Was über die Farbe entscheidet: Höhe über dem Fuß des Volumens, Meter längs einer Achse, Meter von einem Punkt oder der Oberfläche eines Set-Objekts, der Wert der Dichte, der der Wärme, oder Rauschen.</translation>
  </message>
  <message>
   <source>height</source>
   <translation>Höhe</translation>
  </message>
  <message>
   <source>axis</source>
   <translation>Achse</translation>
  </message>
  <message>
   <source>point</source>
   <translation>Punkt</translation>
  </message>
  <message>
   <source>surface</source>
   <translation>Oberfläche</translation>
  </message>
  <message>
   <source>heat</source>
   <translation>Hitze</translation>
  </message>
  <message>
   <source>noise</source>
   <translation>Rauschen</translation>
  </message>
  <message>
   <source>from place</source>
   <translation>ab Ort</translation>
  </message>
  <message>
   <source>Where metres are counted from, in the world.</source>
   <translation>Von wo aus Meter gezählt werden, in der Welt.</translation>
  </message>
  <message>
   <source>The set object from whose surface metres are counted.</source>
   <translation>Das Set-Objekt, von dessen Oberfläche aus Meter gezählt werden.</translation>
  </message>
  <message>
   <source>Direction along which they are counted.</source>
   <translation>Richtung, in der sie gezählt werden.</translation>
  </message>
  <message>
   <source>first colour at</source>
   <translation>erste Farbe bei</translation>
  </message>
  <message>
   <source>Where the first colour lies.</source>
   <translation>Wo die erste Farbe liegt.</translation>
  </message>
  <message>
   <source>last colour at</source>
   <translation>letzte Farbe bei</translation>
  </message>
  <message>
   <source>Where the last colour lies.</source>
   <translation>Wo die letzte Farbe liegt.</translation>
  </message>
  <message>
   <source>first value</source>
   <translation>erster Wert</translation>
  </message>
  <message>
   <source>The grid's value of the first colour.</source>
   <translation>Der Gitterwert der ersten Farbe.</translation>
  </message>
  <message>
   <source>last value</source>
   <translation>letzter Wert</translation>
  </message>
  <message>
   <source>The grid's value of the last colour.</source>
   <translation>Der Gitterwert der letzten Farbe.</translation>
  </message>
  <message>
   <source>Size of the largest patches.</source>
   <translation>Größe der größten Flecken.</translation>
  </message>
  <message>
   <source>Combination</source>
   <translation>Verknüpfung</translation>
  </message>
  <message>
   <source>The volume that is worked on, and whose look stays.</source>
   <translation>Das Volumen, an dem gearbeitet wird und dessen Aussehen bleibt.</translation>
  </message>
  <message>
   <source>how</source>
   <translation>wie</translation>
  </message>
  <message>
   <source>Union: the denser of both. Add: their sum. Multiply: their product. Cut: without what lies inside the other. Inside: only what lies inside the other. Blur, resample: the one volume alone.</source>
   <translation>Vereinigung: das Dichtere von beiden. Summe: beide zusammen. Produkt: eins mal das andere. Schnitt: ohne das, was im anderen liegt. Innen: nur was im anderen liegt. Weichzeichnen, neu abtasten: das eine Volumen allein.</translation>
  </message>
  <message>
   <source>union</source>
   <translation>Vereinigung</translation>
  </message>
  <message>
   <source>add</source>
   <translation>Summe</translation>
  </message>
  <message>
   <source>multiply</source>
   <translation>Produkt</translation>
  </message>
  <message>
   <source>cut</source>
   <translation>Schnitt</translation>
  </message>
  <message>
   <source>inside</source>
   <translation>innen</translation>
  </message>
  <message>
   <source>blur</source>
   <translation>Unschärfe</translation>
  </message>
  <message>
   <source>resample</source>
   <translation>neu abtasten</translation>
  </message>
  <message>
   <source>with</source>
   <translation>mit</translation>
  </message>
  <message>
   <source>The other volume; a shape, a set object's inside or a file.</source>
   <translation>Das andere Volumen; eine Form, das Innere eines Set-Objekts oder eine Datei.</translation>
  </message>
  <message>
   <source>other is only a part</source>
   <translation>das andere ist nur Teil</translation>
  </message>
  <message>
   <source>The other volume is not seen by itself.</source>
   <translation>Das andere Volumen ist für sich nicht zu sehen.</translation>
  </message>
  <message>
   <source>Size of the blur: the standard deviation of its Gaussian.</source>
   <translation>Größe der Unschärfe: die Standardabweichung ihrer Gaußkurve.</translation>
  </message>
  <message>
   <source>Size of the new voxels.</source>
   <translation>Größe der neuen Voxel.</translation>
  </message>
  <message>
   <source>Copies</source>
   <translation>Kopien</translation>
  </message>
  <message>
   <source>The volume that is copied, with its look; its own place does not matter.</source>
   <translation>Das Volumen, das kopiert wird, mit seinem Aussehen; sein eigener Ort zählt nicht.</translation>
  </message>
  <message>
   <source>count</source>
   <translation>Anzahl</translation>
  </message>
  <message>
   <source>How many.</source>
   <translation>Wie viele.</translation>
  </message>
  <message>
   <source>scattered in</source>
   <translation>gestreut in</translation>
  </message>
  <message>
   <source>A box, or the surface of a set object.</source>
   <translation>Ein Quader oder die Oberfläche eines Set-Objekts.</translation>
  </message>
  <message>
   <source>Middle of the box.</source>
   <translation>Mitte des Quaders.</translation>
  </message>
  <message>
   <source>The set object on whose surface they stand.</source>
   <translation>Das Set-Objekt, auf dessen Oberfläche sie stehen.</translation>
  </message>
  <message>
   <source>upright</source>
   <translation>aufrecht</translation>
  </message>
  <message>
   <source>They stand upright; else they stand off the surface.</source>
   <translation>Sie stehen aufrecht; sonst stehen sie von der Oberfläche ab.</translation>
  </message>
  <message>
   <source>lift</source>
   <translation>gehoben</translation>
  </message>
  <message>
   <source>How far they are lifted from their places; below zero they sink in.</source>
   <translation>Wie weit sie von ihren Orten gehoben werden; unter null sinken sie ein.</translation>
  </message>
  <message>
   <source>Chance</source>
   <translation>Zufall</translation>
  </message>
  <message>
   <source>Each is turned about the vertical by up to half of this either way.</source>
   <translation>Jede wird um bis zur Hälfte davon nach beiden Seiten um die Senkrechte gedreht.</translation>
  </message>
  <message>
   <source>smallest</source>
   <translation>kleinste</translation>
  </message>
  <message>
   <source>Size of the smallest, as a multiple of the volume's own scale.</source>
   <translation>Größe der kleinsten, als Vielfaches des eigenen Maßstabs des Volumens.</translation>
  </message>
  <message>
   <source>largest</source>
   <translation>größte</translation>
  </message>
  <message>
   <source>Size of the largest.</source>
   <translation>Größe der größten.</translation>
  </message>
  <message>
   <source>Another number, another scatter.</source>
   <translation>Eine andere Zahl, eine andere Streuung.</translation>
  </message>
  <message>
   <source>lag</source>
   <translation>Nachlauf</translation>
  </message>
  <message>
   <source>Of a sequence: they run up to so many frames behind one another.</source>
   <translation>Bei einer Sequenz: sie laufen um bis zu so viele Bilder hintereinander.</translation>
  </message>
  <message>
   <source>and the volume itself</source>
   <translation>und das Volumen selbst</translation>
  </message>
  <message>
   <source>It is also seen where it stands.</source>
   <translation>Es ist auch dort zu sehen, wo es steht.</translation>
  </message>
  <message>
   <source>near</source>
   <translation>nah</translation>
  </message>
  <message>
   <source>By distance</source>
   <translation>Nach Abstand</translation>
  </message>
  <message>
   <source>Distance at which it begins.</source>
   <translation>Abstand, in dem er beginnt.</translation>
  </message>
  <message>
   <source>far</source>
   <translation>fern</translation>
  </message>
  <message>
   <source>Distance at which it is complete; always beyond near.</source>
   <translation>Abstand, in dem er voll ist; immer hinter nah.</translation>
  </message>
  <message>
   <source>Colour and opacity from near (0) to far (1), up to eight.</source>
   <translation>Farbe und Deckung von nah (0) bis fern (1), bis zu acht.</translation>
  </message>
  <message>
   <source>strength</source>
   <translation>Stärke</translation>
  </message>
  <message>
   <source>Strength of the veil by distance.</source>
   <translation>Stärke des Schleiers nach Abstand.</translation>
  </message>
  <message>
   <source>By height</source>
   <translation>Nach Höhe</translation>
  </message>
  <message>
   <source>Strength of the veil by height; 0: none.</source>
   <translation>Stärke des Schleiers nach Höhe; 0: keiner.</translation>
  </message>
  <message>
   <source>Height of its lower end.</source>
   <translation>Höhe seines unteren Endes.</translation>
  </message>
  <message>
   <source>Height of its upper end; always above the base.</source>
   <translation>Höhe seines oberen Endes; immer über dem unteren.</translation>
  </message>
  <message>
   <source>thins</source>
   <translation>dünnt aus</translation>
  </message>
  <message>
   <source>Toward which end it thins to nothing.</source>
   <translation>Gegen welches Ende er zu nichts ausdünnt.</translation>
  </message>
  <message>
   <source>downward</source>
   <translation>abwärts</translation>
  </message>
  <message>
   <source>fades</source>
   <translation>klingt ab</translation>
  </message>
  <message>
   <source>How it thins between the ends.</source>
   <translation>Wie er zwischen den Enden ausdünnt.</translation>
  </message>
  <message>
   <source>even</source>
   <translation>gleichmäßig</translation>
  </message>
  <message>
   <source>soft</source>
   <translation>weich</translation>
  </message>
  <message>
   <source>exponential</source>
   <translation>exponentiell</translation>
  </message>
  <message>
   <source>colour</source>
   <translation>Farbe</translation>
  </message>
  <message>
   <source>Colour of the veil by height.</source>
   <translation>Farbe des Schleiers nach Höhe.</translation>
  </message>
  <message>
   <source>combine</source>
   <translation>verbinden</translation>
  </message>
  <message>
   <source>Together</source>
   <translation>Zusammen</translation>
  </message>
  <message>
   <source>Height over distance; both added to the picture as light; or one veil where both are.</source>
   <translation>Höhe über Abstand; beide als Licht zum Bild addiert; oder ein Schleier, wo beide sind.</translation>
  </message>
  <message>
   <source>over</source>
   <translation>darüber</translation>
  </message>
  <message>
   <source>How bright its colour 1 is, in stops above 1 W/m²/sr; a veil does not follow the light.</source>
   <translation>Wie hell seine Farbe 1 ist, in Blenden über 1 W/m²/sr; ein Schleier folgt dem Licht nicht.</translation>
  </message>
  <message>
   <source>to dark</source>
   <translation>ins Dunkle</translation>
  </message>
  <message>
   <source>Takes back its own light: 100 % fades to black.</source>
   <translation>Nimmt sein eigenes Licht zurück: 100 % blendet nach Schwarz.</translation>
  </message>
  <message>
   <source>over the sky</source>
   <translation>über dem Himmel</translation>
  </message>
  <message>
   <source>How much of it lies over sky and background.</source>
   <translation>Wie viel davon über Himmel und Hintergrund liegt.</translation>
  </message>
  <message>
   <source>uneven</source>
   <translation>ungleich</translation>
  </message>
  <message>
   <source>Horizon</source>
   <translation>Horizont</translation>
  </message>
  <message>
   <source>By how many stops of distance the veil wavers near the horizon, so that its far edge is no ruled line.</source>
   <translation>Um wie viele Blenden Abstand der Schleier nahe dem Horizont schwankt, damit sein fernes Ende kein Linealstrich ist.</translation>
  </message>
  <message>
   <source>within</source>
   <translation>innerhalb</translation>
  </message>
  <message>
   <source>How far above and below the horizon.</source>
   <translation>Wie weit über und unter dem Horizont.</translation>
  </message>
  <message>
   <source>Size of its wisps as seen.</source>
   <translation>Größe seiner Schwaden, wie man sie sieht.</translation>
  </message>
  <message>
   <source>Another number, another edge.</source>
   <translation>Eine andere Zahl, ein anderer Rand.</translation>
  </message>
  <message>
   <source>placed by</source>
   <translation>gestellt nach</translation>
  </message>
  <message>
   <source>By its height and direction, or by where and when the shot is.</source>
   <translation>Nach Höhe und Richtung, oder danach, wo und wann die Einstellung ist.</translation>
  </message>
  <message>
   <source>angles</source>
   <translation>Winkel</translation>
  </message>
  <message>
   <source>place and time</source>
   <translation>Ort und Zeit</translation>
  </message>
  <message>
   <source>elevation</source>
   <translation>Höhe</translation>
  </message>
  <message>
   <source>Height above the horizon; its colour follows. Below 0 is dusk, below −18 night.</source>
   <translation>Höhe über dem Horizont; die Farbe folgt. Unter 0 ist Dämmerung, unter −18 Nacht.</translation>
  </message>
  <message>
   <source>azimuth</source>
   <translation>Azimut</translation>
  </message>
  <message>
   <source>Direction, clockwise from −Z seen from above.</source>
   <translation>Richtung, im Uhrzeigersinn ab −Z, von oben gesehen.</translation>
  </message>
  <message>
   <source>latitude</source>
   <translation>Breite</translation>
  </message>
  <message>
   <source>North is positive.</source>
   <translation>Nord ist positiv.</translation>
  </message>
  <message>
   <source>longitude</source>
   <translation>Länge</translation>
  </message>
  <message>
   <source>East is positive.</source>
   <translation>Ost ist positiv.</translation>
  </message>
  <message>
   <source>date</source>
   <translation>Datum</translation>
  </message>
  <message>
   <source>Year-month-day.</source>
   <translation>Jahr-Monat-Tag.</translation>
  </message>
  <message>
   <source>hour</source>
   <translation>Stunde</translation>
  </message>
  <message>
   <source>Of the clock there; 9.5 is half past nine.</source>
   <translation>Der Uhr dort; 9,5 ist halb zehn.</translation>
  </message>
  <message>
   <source>clock ahead of UTC</source>
   <translation>Uhr vor UTC</translation>
  </message>
  <message>
   <source>In hours, with summer time.</source>
   <translation>In Stunden, mit Sommerzeit.</translation>
  </message>
  <message>
   <source>north</source>
   <translation>Norden</translation>
  </message>
  <message>
   <source>Where north lies, clockwise from −Z seen from above.</source>
   <translation>Wo Norden liegt, im Uhrzeigersinn ab −Z, von oben gesehen.</translation>
  </message>
  <message>
   <source>Light</source>
   <translation>Licht</translation>
  </message>
  <message>
   <source>Scales sun and sky together; 1 is the real one.</source>
   <translation>Skaliert Sonne und Himmel gemeinsam; 1 ist die wirkliche.</translation>
  </message>
  <message>
   <source>sky share</source>
   <translation>Himmelsanteil</translation>
  </message>
  <message>
   <source>Scales the sky alone.</source>
   <translation>Skaliert den Himmel allein.</translation>
  </message>
  <message>
   <source>what shines</source>
   <translation>was scheint</translation>
  </message>
  <message>
   <source>By day the sun; at night the moon, 1/400 000 as bright when full, or the stars alone.</source>
   <translation>Bei Tag die Sonne; bei Nacht der Mond, voll 1/400 000 so hell, oder die Sterne allein.</translation>
  </message>
  <message>
   <source>sun</source>
   <translation>Sonne</translation>
  </message>
  <message>
   <source>moon</source>
   <translation>Mond</translation>
  </message>
  <message>
   <source>lit share of the moon</source>
   <translation>beleuchteter Teil des Mondes</translation>
  </message>
  <message>
   <source>100 % is full moon, 50 % a half.</source>
   <translation>100 % ist Vollmond, 50 % Halbmond.</translation>
  </message>
  <message>
   <source>night sky</source>
   <translation>Nachthimmel</translation>
  </message>
  <message>
   <source>Glow of the sky without sun and moon; 1 is a dark night in the country, 100 one over a town.</source>
   <translation>Leuchten des Himmels ohne Sonne und Mond; 1 ist eine dunkle Nacht auf dem Land, 100 eine über einer Stadt.</translation>
  </message>
  <message>
   <source>aerosol</source>
   <translation>Schwebstoff</translation>
  </message>
  <message>
   <source>Air above</source>
   <translation>Luft darüber</translation>
  </message>
  <message>
   <source>Aerosol of the high air relative to clean country air. It belongs to the sky alone: air in the shot is Haze, which is not counted here.</source>
   <translation>Schwebstoff der hohen Luft im Verhältnis zu reiner Landluft. Er gehört dem Himmel allein: Luft in der Einstellung ist Dunst und zählt hier nicht.</translation>
  </message>
  <message>
   <source>ozone</source>
   <translation>Ozon</translation>
  </message>
  <message>
   <source>Relative to the usual; it keeps the zenith blue at dusk.</source>
   <translation>Im Verhältnis zum üblichen; es hält den Zenit in der Dämmerung blau.</translation>
  </message>
  <message>
   <source>disk size</source>
   <translation>Scheibengröße</translation>
  </message>
  <message>
   <source>Relative to the real half degree: larger ones throw softer shadows; the light stays the same.</source>
   <translation>Im Verhältnis zum wirklichen halben Grad: größere werfen weichere Schatten; das Licht bleibt gleich.</translation>
  </message>
  <message>
   <source>Colour of the country around, which lights the sky and shows below the horizon.</source>
   <translation>Farbe des Landes ringsum, das den Himmel erhellt und unter dem Horizont zu sehen ist.</translation>
  </message>
  <message>
   <source>panorama</source>
   <translation>Panorama</translation>
  </message>
  <message>
   <source>Panorama</source>
   <translation>Panorama</translation>
  </message>
  <message>
   <source>A picture of the whole sphere (EXR, HDR) instead of the computed sky; twice as wide as high.</source>
   <translation>Ein Bild der ganzen Kugel (EXR, HDR) statt des berechneten Himmels; doppelt so breit wie hoch.</translation>
  </message>
  <message>
   <source>turned</source>
   <translation>gedreht</translation>
  </message>
  <message>
   <source>Clockwise seen from above.</source>
   <translation>Im Uhrzeigersinn von oben gesehen.</translation>
  </message>
  <message>
   <source>take its sun out</source>
   <translation>Sonne herausnehmen</translation>
  </message>
  <message>
   <source>The picture's sun becomes a true one with sharp shadows and shafts; where it stood the picture gets like its surroundings.</source>
   <translation>Die Sonne des Bildes wird eine wirkliche mit scharfen Schatten und Strahlen; wo sie stand, wird das Bild wie seine Umgebung.</translation>
  </message>
  <message>
   <source>Reach shades too</source>
   <translation>Wirkbereich auch für Schatten</translation>
  </message>
  <message>
   <source>What Reach keeps the sun from casts no shadow in its light either.</source>
   <translation>Wovor der Wirkbereich die Sonne bewahrt, das wirft in ihrem Licht auch keinen Schatten.</translation>
  </message>
  <message>
   <source>given as</source>
   <translation>angegeben als</translation>
  </message>
  <message>
   <source>In which measure its brightness is given.</source>
   <translation>In welchem Maß die Helligkeit angegeben wird.</translation>
  </message>
  <message>
   <source>lumens</source>
   <translation>Lumen</translation>
  </message>
  <message>
   <source>candela</source>
   <translation>Candela</translation>
  </message>
  <message>
   <source>lux</source>
   <translation>Lux</translation>
  </message>
  <message>
   <source>watts</source>
   <translation>Watt</translation>
  </message>
  <message>
   <source>as in the profile</source>
   <translation>wie im Profil</translation>
  </message>
  <message>
   <source>power</source>
   <translation>Lichtstrom</translation>
  </message>
  <message>
   <source>All the light that leaves it.</source>
   <translation>Alles Licht, das sie verlässt.</translation>
  </message>
  <message>
   <source>intensity</source>
   <translation>Lichtstärke</translation>
  </message>
  <message>
   <source>Intensity straight ahead.</source>
   <translation>Lichtstärke geradeaus.</translation>
  </message>
  <message>
   <source>illuminance</source>
   <translation>Beleuchtungsstärke</translation>
  </message>
  <message>
   <source>What it gives a surface that faces it.</source>
   <translation>Was sie einer Fläche gibt, die ihr zugewandt ist.</translation>
  </message>
  <message>
   <source>at a distance of</source>
   <translation>im Abstand von</translation>
  </message>
  <message>
   <source>Where that illuminance is met.</source>
   <translation>Wo diese Beleuchtungsstärke gilt.</translation>
  </message>
  <message>
   <source>radiant power</source>
   <translation>Strahlungsleistung</translation>
  </message>
  <message>
   <source>Light as power, weighed by the eye: 1 W is 683 lm. Not what it draws from the mains.</source>
   <translation>Licht als Leistung, nach dem Auge gewichtet: 1 W ist 683 lm. Nicht, was sie dem Netz entnimmt.</translation>
  </message>
  <message>
   <source>colour by</source>
   <translation>Farbe nach</translation>
  </message>
  <message>
   <source>A colour of its own, or that of a glowing body.</source>
   <translation>Eine eigene Farbe oder die eines glühenden Körpers.</translation>
  </message>
  <message>
   <source>temperature</source>
   <translation>Temperatur</translation>
  </message>
  <message>
   <source>Colour of the light; its brightness does not count.</source>
   <translation>Farbe des Lichts; ihre Helligkeit zählt nicht.</translation>
  </message>
  <message>
   <source>Of the glowing body: a candle 1850 K, a bulb 2700 K, daylight 6500 K.</source>
   <translation>Des glühenden Körpers: eine Kerze 1850 K, eine Glühlampe 2700 K, Tageslicht 6500 K.</translation>
  </message>
  <message>
   <source>source radius</source>
   <translation>Radius der Quelle</translation>
  </message>
  <message>
   <source>Size of the glowing part: larger ones throw softer shadows.</source>
   <translation>Größe des leuchtenden Teils: größere werfen weichere Schatten.</translation>
  </message>
  <message>
   <source>own glow</source>
   <translation>eigenes Glühen</translation>
  </message>
  <message>
   <source>The source itself as the camera and mirrors see it; 1 is physical, 0 hides it.</source>
   <translation>Die Quelle selbst, wie Kamera und Spiegel sie sehen; 1 ist physikalisch, 0 verbirgt sie.</translation>
  </message>
  <message>
   <source>photometric profile</source>
   <translation>Lichtprofil</translation>
  </message>
  <message>
   <source>An IES file: how a real fixture spreads its light.</source>
   <translation>Eine IES-Datei: wie eine wirkliche Leuchte ihr Licht verteilt.</translation>
  </message>
  <message>
   <source>Where the lamp is.</source>
   <translation>Wo die Lampe ist.</translation>
  </message>
  <message>
   <source>aim</source>
   <translation>Ziel</translation>
  </message>
  <message>
   <source>The point it shines at.</source>
   <translation>Der Punkt, auf den sie scheint.</translation>
  </message>
  <message>
   <source>About its own axis.</source>
   <translation>Um die eigene Achse.</translation>
  </message>
  <message>
   <source>A set it is fixed to: place and aim are then in that set's own metres and move with it.</source>
   <translation>Ein Set, an dem sie hängt: Ort und Ziel zählen dann in dessen eigenen Metern und gehen mit.</translation>
  </message>
  <message>
   <source>sweep</source>
   <translation>Schwenk</translation>
  </message>
  <message>
   <source>Change</source>
   <translation>Wechsel</translation>
  </message>
  <message>
   <source>Turns of its beam about the vertical, as of a beacon; below 0 the other way round.</source>
   <translation>Drehung ihres Strahls um die Senkrechte, wie bei einem Leuchtfeuer; unter 0 andersherum.</translation>
  </message>
  <message>
   <source>sweep arc</source>
   <translation>Schwenkbogen</translation>
  </message>
  <message>
   <source>360° goes round and round; less swings to and fro.</source>
   <translation>360° geht rundum; weniger schwenkt hin und her.</translation>
  </message>
  <message>
   <source>changes</source>
   <translation>Wechsel</translation>
  </message>
  <message>
   <source>How its strength changes from frame to frame.</source>
   <translation>Wie ihre Stärke sich von Bild zu Bild ändert.</translation>
  </message>
  <message>
   <source>steady</source>
   <translation>stetig</translation>
  </message>
  <message>
   <source>candle</source>
   <translation>Kerze</translation>
  </message>
  <message>
   <source>fire</source>
   <translation>Feuer</translation>
  </message>
  <message>
   <source>failing tube</source>
   <translation>schwache Röhre</translation>
  </message>
  <message>
   <source>pulse</source>
   <translation>Puls</translation>
  </message>
  <message>
   <source>strobe</source>
   <translation>Blitzen</translation>
  </message>
  <message>
   <source>rate</source>
   <translation>Rate</translation>
  </message>
  <message>
   <source>How quickly.</source>
   <translation>Wie schnell.</translation>
  </message>
  <message>
   <source>depth</source>
   <translation>Tiefe</translation>
  </message>
  <message>
   <source>How much of its strength it loses at most.</source>
   <translation>Wie viel ihrer Stärke sie höchstens verliert.</translation>
  </message>
  <message>
   <source>Another course of the same kind.</source>
   <translation>Ein anderer Verlauf derselben Art.</translation>
  </message>
  <message>
   <source>falloff</source>
   <translation>Abfall</translation>
  </message>
  <message>
   <source>Reach</source>
   <translation>Wirkbereich</translation>
  </message>
  <message>
   <source>Physical: with the square of the distance. None and linear (to a range) are not physical; they start from what it gives at 1 m.</source>
   <translation>Physikalisch: mit dem Quadrat des Abstands. Keiner und linear (bis zu einer Weite) sind nicht physikalisch; sie gehen von dem aus, was sie in 1 m gibt.</translation>
  </message>
  <message>
   <source>physical</source>
   <translation>physikalisch</translation>
  </message>
  <message>
   <source>linear</source>
   <translation>linear</translation>
  </message>
  <message>
   <source>range</source>
   <translation>Weite</translation>
  </message>
  <message>
   <source>Where it ends.</source>
   <translation>Wo es endet.</translation>
  </message>
  <message>
   <source>in matte</source>
   <translation>auf Mattem</translation>
  </message>
  <message>
   <source>Strength on the set's diffuse colour; 1 is physical.</source>
   <translation>Stärke auf der matten Farbe des Sets; 1 ist physikalisch.</translation>
  </message>
  <message>
   <source>in highlights</source>
   <translation>in Glanzlichtern</translation>
  </message>
  <message>
   <source>Strength in the set's highlights; 1 is physical.</source>
   <translation>Stärke in den Glanzlichtern des Sets; 1 ist physikalisch.</translation>
  </message>
  <message>
   <source>in the air</source>
   <translation>in der Luft</translation>
  </message>
  <message>
   <source>Strength in all air: its beam. 1 is physical.</source>
   <translation>Stärke in aller Luft: ihr Strahl. 1 ist physikalisch.</translation>
  </message>
  <message>
   <source>shadows of</source>
   <translation>Schatten von</translation>
  </message>
  <message>
   <source>What dims its light on the way: the set and the air, the set alone, or nothing (not physical).</source>
   <translation>Was ihr Licht unterwegs mindert: das Set und die Luft, das Set allein, oder nichts (nicht physikalisch).</translation>
  </message>
  <message>
   <source>set and air</source>
   <translation>Set und Luft</translation>
  </message>
  <message>
   <source>set</source>
   <translation>Set</translation>
  </message>
  <message>
   <source>What Reach keeps its light from casts no shadow in its light either.</source>
   <translation>Wovor der Wirkbereich ihr Licht bewahrt, das wirft darin auch keinen Schatten.</translation>
  </message>
  <message>
   <source>quick beam</source>
   <translation>schneller Strahl</translation>
  </message>
  <message>
   <source>The beam as if the air around each place were even: no shadows of the set in it, no noise. For previews and far shots.</source>
   <translation>Der Strahl, als wäre die Luft um jeden Ort gleichmäßig: keine Schatten des Sets darin, kein Rauschen. Für Vorschauen und weite Einstellungen.</translation>
  </message>
  <message>
   <source>gobo</source>
   <translation>Gobo</translation>
  </message>
  <message>
   <source>Gobo</source>
   <translation>Gobo</translation>
  </message>
  <message>
   <source>What it shines through. A colour picture throws itself into the fog.</source>
   <translation>Wodurch sie scheint. Ein Farbbild wirft sich in den Nebel.</translation>
  </message>
  <message>
   <source>picture</source>
   <translation>Bild</translation>
  </message>
  <message>
   <source>window</source>
   <translation>Fenster</translation>
  </message>
  <message>
   <source>blinds</source>
   <translation>Lamellen</translation>
  </message>
  <message>
   <source>foliage</source>
   <translation>Laub</translation>
  </message>
  <message>
   <source>breakup</source>
   <translation>Gesprenkel</translation>
  </message>
  <message>
   <source>slit</source>
   <translation>Schlitz</translation>
  </message>
  <message>
   <source>stars</source>
   <translation>Sterne</translation>
  </message>
  <message>
   <source>drawn</source>
   <translation>gezeichnet</translation>
  </message>
  <message>
   <source>The picture, fitted into the beam.</source>
   <translation>Das Bild, in den Strahl eingepasst.</translation>
  </message>
  <message>
   <source>Panes across, slats, or how fine the pattern is.</source>
   <translation>Scheiben nebeneinander, Lamellen, oder wie fein das Muster ist.</translation>
  </message>
  <message>
   <source>open</source>
   <translation>offen</translation>
  </message>
  <message>
   <source>Share that lets light through.</source>
   <translation>Anteil, der Licht durchlässt.</translation>
  </message>
  <message>
   <source>variant</source>
   <translation>Spielart</translation>
  </message>
  <message>
   <source>Another pattern of the same kind.</source>
   <translation>Ein anderes Muster derselben Art.</translation>
  </message>
  <message>
   <source>drawing</source>
   <translation>Zeichnung</translation>
  </message>
  <message>
   <source>Outlines light passes through, from −1 to 1 across the beam: x and y apart by a blank, points by commas, outlines by semicolons.</source>
   <translation>Umrisse, durch die Licht geht, von −1 bis 1 quer zum Strahl: x und y durch ein Leerzeichen getrennt, Punkte durch Kommas, Umrisse durch Strichpunkte.</translation>
  </message>
  <message>
   <source>softness</source>
   <translation>Weichheit</translation>
  </message>
  <message>
   <source>Width of its edges as a share of the beam.</source>
   <translation>Breite der Ränder als Anteil des Strahls.</translation>
  </message>
  <message>
   <source>About the beam's axis.</source>
   <translation>Um die Achse des Strahls.</translation>
  </message>
  <message>
   <source>Larger patterns above 1.</source>
   <translation>Größere Muster über 1.</translation>
  </message>
  <message>
   <source>spin</source>
   <translation>Eigendrehung</translation>
  </message>
  <message>
   <source>Turns a second.</source>
   <translation>Umdrehungen je Sekunde.</translation>
  </message>
  <message>
   <source>Beam widths a second.</source>
   <translation>Strahlbreiten je Sekunde.</translation>
  </message>
  <message>
   <source>drift toward</source>
   <translation>Drift Richtung</translation>
  </message>
  <message>
   <source>0° is to the right, 90° up.</source>
   <translation>0° ist nach rechts, 90° nach oben.</translation>
  </message>
  <message>
   <source>beam angle</source>
   <translation>Strahlwinkel</translation>
  </message>
  <message>
   <source>Full opening of the cone.</source>
   <translation>Volle Öffnung des Kegels.</translation>
  </message>
  <message>
   <source>Share of the cone over which it fades out.</source>
   <translation>Anteil des Kegels, über den er ausläuft.</translation>
  </message>
  <message>
   <source>Its outline.</source>
   <translation>Ihr Umriss.</translation>
  </message>
  <message>
   <source>rectangle</source>
   <translation>Rechteck</translation>
  </message>
  <message>
   <source>disc</source>
   <translation>Scheibe</translation>
  </message>
  <message>
   <source>width</source>
   <translation>Breite</translation>
  </message>
  <message>
   <source>Across the panel.</source>
   <translation>Quer über die Tafel.</translation>
  </message>
  <message>
   <source>The other way.</source>
   <translation>Die andere Richtung.</translation>
  </message>
  <message>
   <source>radius</source>
   <translation>Radius</translation>
  </message>
  <message>
   <source>Of the disc.</source>
   <translation>Der Scheibe.</translation>
  </message>
  <message>
   <source>length</source>
   <translation>Länge</translation>
  </message>
  <message>
   <source>From end to end.</source>
   <translation>Von Ende zu Ende.</translation>
  </message>
  <message>
   <source>beam radius</source>
   <translation>Strahlradius</translation>
  </message>
  <message>
   <source>Half the beam's width.</source>
   <translation>Die halbe Breite des Strahls.</translation>
  </message>
  <message>
   <source>Share of the radius over which it fades out.</source>
   <translation>Anteil des Radius, über den er ausläuft.</translation>
  </message>
  <message>
   <source>File</source>
   <translation>Datei</translation>
  </message>
  <message>
   <source>The geometry file, relative to the project.</source>
   <translation>Die Geometriedatei, relativ zum Projekt.</translation>
  </message>
  <message>
   <source>Enlarges it; on top of the file's unit.</source>
   <translation>Vergrößert es; zusätzlich zur Einheit der Datei.</translation>
  </message>
  <message>
   <source>file's unit</source>
   <translation>Einheit der Datei</translation>
  </message>
  <message>
   <source>What one unit of the file is.</source>
   <translation>Was eine Einheit der Datei ist.</translation>
  </message>
  <message>
   <source>metres</source>
   <translation>Meter</translation>
  </message>
  <message>
   <source>centimetres</source>
   <translation>Zentimeter</translation>
  </message>
  <message>
   <source>millimetres</source>
   <translation>Millimeter</translation>
  </message>
  <message>
   <source>inches</source>
   <translation>Zoll</translation>
  </message>
  <message>
   <source>feet</source>
   <translation>Fuß</translation>
  </message>
  <message>
   <source>seen</source>
   <translation>zu sehen</translation>
  </message>
  <message>
   <source>Picture</source>
   <translation>Bild</translation>
  </message>
  <message>
   <source>Seen by the camera and in mirrors; off leaves its shadow alone.</source>
   <translation>Für die Kamera und in Spiegeln zu sehen; aus lässt nur seinen Schatten.</translation>
  </message>
  <message>
   <source>Shades the set and the air.</source>
   <translation>Beschattet das Set und die Luft.</translation>
  </message>
  <message>
   <source>matte</source>
   <translation>Matte</translation>
  </message>
  <message>
   <source>Holds the picture open where it stands (alpha 0), still shades; before a plate the plate shows there.</source>
   <translation>Hält das Bild offen, wo es steht (Alpha 0), beschattet weiter; vor einer Plate zeigt sich dort die Plate.</translation>
  </message>
  <message>
   <source>floats</source>
   <translation>schwimmt</translation>
  </message>
  <message>
   <source>Afloat</source>
   <translation>Schwimmend</translation>
  </message>
  <message>
   <source>Lies on the project's water as deep as its weight asks, and waves lift, pitch and roll it.</source>
   <translation>Liegt auf dem Wasser des Projekts, so tief sein Gewicht es will, und Wellen heben, stampfen und rollen es.</translation>
  </message>
  <message>
   <source>mass</source>
   <translation>Masse</translation>
  </message>
  <message>
   <source>0: what it weighs as deep as it stands.</source>
   <translation>0: was es wiegt, so tief es steht.</translation>
  </message>
  <message>
   <source>weight lies at</source>
   <translation>Schwerpunkt bei</translation>
  </message>
  <message>
   <source>Of its height; 0: in the middle of its surface. Lower, and it rights itself faster; high up it would turn over.</source>
   <translation>Seiner Höhe; 0: in der Mitte seiner Oberfläche. Tiefer richtet es sich schneller auf; hoch oben würde es kentern.</translation>
  </message>
  <message>
   <source>animation</source>
   <translation>Animation</translation>
  </message>
  <message>
   <source>Animation</source>
   <translation>Animation</translation>
  </message>
  <message>
   <source>Moves as the file's clip says: its nodes, skins and morph targets (glTF).</source>
   <translation>Bewegt sich, wie der Clip der Datei sagt: Knoten, Häute und Morph-Ziele (glTF).</translation>
  </message>
  <message>
   <source>clip</source>
   <translation>Clip</translation>
  </message>
  <message>
   <source>Which of the file's clips, by number.</source>
   <translation>Welcher Clip der Datei, nach Nummer.</translation>
  </message>
  <message>
   <source>Times as fast as it was made; below 0 backward.</source>
   <translation>So oft so schnell, wie er gemacht wurde; unter 0 rückwärts.</translation>
  </message>
  <message>
   <source>begins at</source>
   <translation>beginnt bei</translation>
  </message>
  <message>
   <source>When it begins, in seconds of the project.</source>
   <translation>Wann er beginnt, in Sekunden des Projekts.</translation>
  </message>
  <message>
   <source>What it does outside of its length: comes again, stands still, goes to and fro.</source>
   <translation>Was er außerhalb seiner Länge tut: kommt wieder, steht still, geht hin und her.</translation>
  </message>
  <message>
   <source>swing</source>
   <translation>hin und her</translation>
  </message>
  <message>
   <source>The set that is copied; its own place does not matter, and it may be muted.</source>
   <translation>Das Set, das kopiert wird; sein eigener Ort zählt nicht, und es darf stumm sein.</translation>
  </message>
  <message>
   <source>object of it</source>
   <translation>Objekt daraus</translation>
  </message>
  <message>
   <source>The name of one of its objects, such as a tree of a wood; empty: the whole set.</source>
   <translation>Der Name eines seiner Objekte, etwa ein Baum eines Waldes; leer: das ganze Set.</translation>
  </message>
  <message>
   <source>surface of</source>
   <translation>Oberfläche von</translation>
  </message>
  <message>
   <source>The set on whose surface they stand.</source>
   <translation>Das Set, auf dessen Oberfläche sie stehen.</translation>
  </message>
  <message>
   <source>The name of the object they stand on; empty: all of the set.</source>
   <translation>Der Name des Objekts, auf dem sie stehen; leer: das ganze Set.</translation>
  </message>
  <message>
   <source>steepest</source>
   <translation>steilster</translation>
  </message>
  <message>
   <source>They stand on slopes up to this.</source>
   <translation>Sie stehen auf Hängen bis zu diesem.</translation>
  </message>
  <message>
   <source>Size of the smallest, as a multiple of the set's own.</source>
   <translation>Größe der kleinsten, als Vielfaches der eigenen des Sets.</translation>
  </message>
  <message>
   <source>Seen by the camera and in mirrors; off leaves their shadows alone.</source>
   <translation>Für die Kamera und in Spiegeln zu sehen; aus lässt nur ihre Schatten.</translation>
  </message>
  <message>
   <source>cast shadow</source>
   <translation>werfen Schatten</translation>
  </message>
  <message>
   <source>They shade the set and the air.</source>
   <translation>Sie beschatten das Set und die Luft.</translation>
  </message>
  <message>
   <source>Files</source>
   <translation>Dateien</translation>
  </message>
  <message>
   <source>EXR (linear), or PNG, JPEG, TIFF, HDR.</source>
   <translation>EXR (linear), oder PNG, JPEG, TIFF, HDR.</translation>
  </message>
  <message>
   <source>The depth: a channel of the picture's own EXR, or a picture of its own. Empty: the picture's own Z, if it has one.</source>
   <translation>Die Tiefe: ein Kanal der EXR des Bildes oder ein eigenes Bild. Leer: das eigene Z des Bildes, falls es eines hat.</translation>
  </message>
  <message>
   <source>Layer of an EXR of many: plate takes plate.R, plate.G and plate.B. Empty: R, G and B.</source>
   <translation>Ebene einer EXR aus vielen: plate nimmt plate.R, plate.G und plate.B. Leer: R, G und B.</translation>
  </message>
  <message>
   <source>depth channel</source>
   <translation>Tiefenkanal</translation>
  </message>
  <message>
   <source>Channel of the depth file; empty takes Z, depth.Z or the only one.</source>
   <translation>Kanal der Tiefendatei; leer nimmt Z, depth.Z oder den einzigen.</translation>
  </message>
  <message>
   <source>Brings a display-referred picture to the brightness of the light; 0 leaves every pixel as it is.</source>
   <translation>Bringt ein Bild für den Bildschirm auf die Helligkeit des Lichts; 0 lässt jeden Bildpunkt, wie er ist.</translation>
  </message>
  <message>
   <source>air over its sky</source>
   <translation>Luft über ihrem Himmel</translation>
  </message>
  <message>
   <source>Depth</source>
   <translation>Tiefe</translation>
  </message>
  <message>
   <source>How much the air covers the plate's sky, which is infinitely far.</source>
   <translation>Wie viel die Luft vom Himmel der Plate bedeckt, der unendlich fern ist.</translation>
  </message>
  <message>
   <source>measured</source>
   <translation>gemessen</translation>
  </message>
  <message>
   <source>From the camera to the point, or along the camera's axis.</source>
   <translation>Von der Kamera zum Punkt, oder längs der Achse der Kamera.</translation>
  </message>
  <message>
   <source>ray</source>
   <translation>Strahl</translation>
  </message>
  <message>
   <source>unit</source>
   <translation>Einheit</translation>
  </message>
  <message>
   <source>Metres; 0 to 1 of a maximum (1 is sky); 1 to 0 of a maximum (0 is sky); or one over metres.</source>
   <translation>Meter; 0 bis 1 eines Größten (1 ist Himmel); 1 bis 0 eines Größten (0 ist Himmel); oder eins durch Meter.</translation>
  </message>
  <message>
   <source>1/metres</source>
   <translation>1/Meter</translation>
  </message>
  <message>
   <source>maximum</source>
   <translation>Größtes</translation>
  </message>
  <message>
   <source>The distance that a full value stands for.</source>
   <translation>Der Abstand, für den ein voller Wert steht.</translation>
  </message>
  <message>
   <source>metres a unit</source>
   <translation>Meter je Einheit</translation>
  </message>
  <message>
   <source>Metres of one unit of the depth: 0.01 for centimetres.</source>
   <translation>Meter einer Einheit der Tiefe: 0,01 für Zentimeter.</translation>
  </message>
  <message>
   <source>fit depth</source>
   <translation>Tiefe anpassen</translation>
  </message>
  <message>
   <source>Resamples a depth of another size to the picture's; off leaves such a depth out.</source>
   <translation>Bringt eine Tiefe anderer Größe auf die des Bildes; aus lässt eine solche weg.</translation>
  </message>
  <message>
   <source>shades the air</source>
   <translation>beschattet die Luft</translation>
  </message>
  <message>
   <source>Its surface, as far as the depth tells it, stands in the light's way. What the camera does not see casts no shadow.</source>
   <translation>Ihre Oberfläche, so weit die Tiefe sie kennt, steht dem Licht im Weg. Was die Kamera nicht sieht, wirft keinen Schatten.</translation>
  </message>
  <message>
   <source>Frames</source>
   <translation>Bilder</translation>
  </message>
  <message>
   <source>Takes the files' last number as the frame.</source>
   <translation>Nimmt die letzte Zahl der Dateien als Bildnummer.</translation>
  </message>
  <message>
   <source>A frame whose file is not there: the one before it stays, or there is no plate.</source>
   <translation>Ein Bild, dessen Datei fehlt: das vorige bleibt, oder es ist keine Plate da.</translation>
  </message>
  <message>
   <source>Gas</source>
   <translation>Gas</translation>
  </message>
  <message>
   <source>How finely it is simulated. Half as large takes sixteen times as long.</source>
   <translation>Wie fein simuliert wird. Halb so groß dauert sechzehnmal so lange.</translation>
  </message>
  <message>
   <source>detail</source>
   <translation>Feinheit</translation>
  </message>
  <message>
   <source>Preview has voxels twice as large and takes a sixteenth of the time, final half as large.</source>
   <translation>Vorschau hat doppelt so große Voxel und braucht ein Sechzehntel der Zeit, final halb so große.</translation>
  </message>
  <message>
   <source>preview</source>
   <translation>Vorschau</translation>
  </message>
  <message>
   <source>shot</source>
   <translation>Einstellung</translation>
  </message>
  <message>
   <source>final</source>
   <translation>final</translation>
  </message>
  <message>
   <source>keeps to its preview</source>
   <translation>folgt der Vorschau</translation>
  </message>
  <message>
   <source>How much its large motion stays that of the preview; 0 makes another fire of the same kind.</source>
   <translation>Wie sehr ihre große Bewegung die der Vorschau bleibt; 0 macht ein anderes Feuer derselben Art.</translation>
  </message>
  <message>
   <source>cools by</source>
   <translation>kühlt um</translation>
  </message>
  <message>
   <source>Kelvin a second that it loses at 2088 K; cooler gas far less, by the fourth power.</source>
   <translation>Kelvin je Sekunde, die sie bei 2088 K verliert; kühleres Gas weit weniger, mit der vierten Potenz.</translation>
  </message>
  <message>
   <source>smoke halves in</source>
   <translation>Rauch halbiert in</translation>
  </message>
  <message>
   <source>How long half of the smoke stays; 0 keeps all of it.</source>
   <translation>Wie lange die Hälfte des Rauchs bleibt; 0 behält allen.</translation>
  </message>
  <message>
   <source>rises</source>
   <translation>steigt</translation>
  </message>
  <message>
   <source>Times as strongly as hot gas does; 1 is physical.</source>
   <translation>So oft so stark wie heißes Gas; 1 ist physikalisch.</translation>
  </message>
  <message>
   <source>swirls</source>
   <translation>Wirbel</translation>
  </message>
  <message>
   <source>Gives back what the cells lose of small swirls.</source>
   <translation>Gibt zurück, was die Zellen an kleinen Wirbeln verlieren.</translation>
  </message>
  <message>
   <source>viscosity</source>
   <translation>Zähigkeit</translation>
  </message>
  <message>
   <source>Times that of air: small flames are as smooth as they are by it. Hot gas has some ten times as much.</source>
   <translation>Ein Vielfaches der von Luft: kleine Flammen sind durch sie so glatt. Heißes Gas hat etwa das Zehnfache.</translation>
  </message>
  <message>
   <source>expands</source>
   <translation>dehnt sich</translation>
  </message>
  <message>
   <source>Room that gas takes as it burns; 1 is physical.</source>
   <translation>Raum, den Gas beim Brennen einnimmt; 1 ist physikalisch.</translation>
  </message>
  <message>
   <source>pace</source>
   <translation>Zeitmaß</translation>
  </message>
  <message>
   <source>Seconds of the gas in a second of the film.</source>
   <translation>Sekunden des Gases in einer Sekunde des Films.</translation>
  </message>
  <message>
   <source>burns</source>
   <translation>brennt</translation>
  </message>
  <message>
   <source>Fire</source>
   <translation>Feuer</translation>
  </message>
  <message>
   <source>Share of the fuel that burns a second: low makes tall lazy flames, high short sharp ones.</source>
   <translation>Anteil des Brennstoffs, der je Sekunde verbrennt: wenig macht hohe träge Flammen, viel kurze scharfe.</translation>
  </message>
  <message>
   <source>How much hotter a full share of fuel makes the gas.</source>
   <translation>Wie viel heißer ein voller Anteil Brennstoff das Gas macht.</translation>
  </message>
  <message>
   <source>burns above</source>
   <translation>brennt über</translation>
  </message>
  <message>
   <source>Cooler fuel does not burn.</source>
   <translation>Kühlerer Brennstoff brennt nicht.</translation>
  </message>
  <message>
   <source>smokes</source>
   <translation>rußt</translation>
  </message>
  <message>
   <source>Grams of soot in a cubic metre that a full share of fuel leaves.</source>
   <translation>Gramm Ruß im Kubikmeter, die ein voller Anteil Brennstoff zurücklässt.</translation>
  </message>
  <message>
   <source>Box</source>
   <translation>Quader</translation>
  </message>
  <message>
   <source>Middle of the box's floor.</source>
   <translation>Mitte des Bodens des Quaders.</translation>
  </message>
  <message>
   <source>largest size</source>
   <translation>größtes Maß</translation>
  </message>
  <message>
   <source>Where it may go; it is simulated only where there is something.</source>
   <translation>Wohin sie darf; simuliert wird nur, wo etwas ist.</translation>
  </message>
  <message>
   <source>stands on ground</source>
   <translation>steht auf Boden</translation>
  </message>
  <message>
   <source>Nothing passes the floor of its box.</source>
   <translation>Nichts geht durch den Boden ihres Quaders.</translation>
  </message>
  <message>
   <source>sets stand in its way</source>
   <translation>Sets stehen im Weg</translation>
  </message>
  <message>
   <source>Sets are solid to it; what feeds it is open.</source>
   <translation>Sets sind für sie fest; was sie speist, ist offen.</translation>
  </message>
  <message>
   <source>sharper</source>
   <translation>schärfer</translation>
  </message>
  <message>
   <source>Eddies half a voxel small, on top of what is baked; 1 as strong as its own swirls pass on. Nothing is baked anew.</source>
   <translation>Wirbel, halb so klein wie ein Voxel, über dem Gebackenen; 1 so stark, wie ihre eigenen sie weitergeben. Nichts wird neu gebacken.</translation>
  </message>
  <message>
   <source>heat haze</source>
   <translation>Hitzeflimmern</translation>
  </message>
  <message>
   <source>How strongly its warmth bends the light of what stands behind; 1 is physical, 0 leaves it out.</source>
   <translation>Wie stark ihre Wärme das Licht dessen bricht, was dahinter steht; 1 ist physikalisch, 0 lässt es weg.</translation>
  </message>
  <message>
   <source>draws mist in</source>
   <translation>zieht Nebel an</translation>
  </message>
  <message>
   <source>The air that its fire draws in moves banks near it, and its warmth dries them: times as strongly as it does. 1 is physical, 0 leaves them as they are.</source>
   <translation>Die Luft, die sein Feuer ansaugt, bewegt Nebelbänke in der Nähe, und seine Wärme trocknet sie: so vielmal so stark, wie es das tut. 1 ist physikalisch, 0 lässt sie, wie sie sind.</translation>
  </message>
  <message>
   <source>shown at speed</source>
   <translation>gezeigt mit Tempo</translation>
  </message>
  <message>
   <source>Time</source>
   <translation>Zeit</translation>
  </message>
  <message>
   <source>Times as fast as it was simulated; between two frames along its motion. Keys make a curve, 0 holds.</source>
   <translation>So oft so schnell, wie sie simuliert wurde; zwischen zwei Bildern längs ihrer Bewegung. Keys machen eine Kurve, 0 hält an.</translation>
  </message>
  <message>
   <source>shown from</source>
   <translation>gezeigt ab</translation>
  </message>
  <message>
   <source>How far into the bake it begins.</source>
   <translation>Wie weit im Gebackenen sie beginnt.</translation>
  </message>
  <message>
   <source>What is shown outside of the baked frames.</source>
   <translation>Was außerhalb der gebackenen Bilder gezeigt wird.</translation>
  </message>
  <message>
   <source>fades over</source>
   <translation>geht über in</translation>
  </message>
  <message>
   <source>How long its end is blended into its beginning.</source>
   <translation>Wie lange ihr Ende in ihren Anfang übergeht.</translation>
  </message>
  <message>
   <source>feeds</source>
   <translation>speist</translation>
  </message>
  <message>
   <source>Feed</source>
   <translation>Speisung</translation>
  </message>
  <message>
   <source>The plume that it feeds.</source>
   <translation>Die Fahne, die sie speist.</translation>
  </message>
  <message>
   <source>Its shape, the surface of a set object, or where baked embers fly.</source>
   <translation>Ihre Form, die Oberfläche eines Set-Objekts, oder wo gebackene Funken fliegen.</translation>
  </message>
  <message>
   <source>line</source>
   <translation>Linie</translation>
  </message>
  <message>
   <source>embers</source>
   <translation>Funken</translation>
  </message>
  <message>
   <source>The set object whose surface feeds.</source>
   <translation>Das Set-Objekt, dessen Oberfläche speist.</translation>
  </message>
  <message>
   <source>painted faces</source>
   <translation>bemalt</translation>
  </message>
  <message>
   <source>Faces painted in the Picture feed, no others; where none are, all do.</source>
   <translation>Im Bild bemalte Flächen speisen, keine anderen; wo keine sind, alle.</translation>
  </message>
  <message>
   <source>The baked Embers that leave a trail; those of another plume.</source>
   <translation>Die gebackenen Funken, die eine Spur lassen; die einer anderen Fahne.</translation>
  </message>
  <message>
   <source>mask</source>
   <translation>Maske</translation>
  </message>
  <message>
   <source>A picture laid over it from above, its top to the back: it feeds where that is bright.</source>
   <translation>Ein Bild, von oben darübergelegt, sein oberer Rand nach hinten: sie speist, wo es hell ist.</translation>
  </message>
  <message>
   <source>of material</source>
   <translation>aus Material</translation>
  </message>
  <message>
   <source>Only faces of the material of this name feed; empty: all.</source>
   <translation>Nur Flächen aus dem Material dieses Namens speisen; leer: alle.</translation>
  </message>
  <message>
   <source>only in its box</source>
   <translation>nur in ihrem Quader</translation>
  </message>
  <message>
   <source>Only faces in a box feed; its place and size stand below.</source>
   <translation>Nur Flächen in einem Quader speisen; Ort und Größe stehen darunter.</translation>
  </message>
  <message>
   <source>Of what it gives; the air has 288 K.</source>
   <translation>Dessen, was sie gibt; die Luft hat 288 K.</translation>
  </message>
  <message>
   <source>fuel</source>
   <translation>Brennstoff</translation>
  </message>
  <message>
   <source>Share of what it gives that burns; 0 gives smoke alone.</source>
   <translation>Anteil dessen, was sie gibt, der brennt; 0 gibt Rauch allein.</translation>
  </message>
  <message>
   <source>smoke</source>
   <translation>Rauch</translation>
  </message>
  <message>
   <source>Grams of smoke in a cubic metre of what it gives; 1 hides what is 30 cm behind.</source>
   <translation>Gramm Rauch im Kubikmeter dessen, was sie gibt; 1 verbirgt, was 30 cm dahinter ist.</translation>
  </message>
  <message>
   <source>How fast the air in it becomes like what it gives; 0 stops it.</source>
   <translation>Wie schnell die Luft darin wird wie das, was sie gibt; 0 hält sie an.</translation>
  </message>
  <message>
   <source>What it gives comes out so fast; 0 leaves it to rise by itself.</source>
   <translation>So schnell kommt heraus, was sie gibt; 0 lässt es von selbst steigen.</translation>
  </message>
  <message>
   <source>climbs</source>
   <translation>Steigung</translation>
  </message>
  <message>
   <source>Direction of that speed over the level; 90 is straight up.</source>
   <translation>Richtung dieser Geschwindigkeit über der Waagerechten; 90 ist senkrecht nach oben.</translation>
  </message>
  <message>
   <source>heading</source>
   <translation>Richtung</translation>
  </message>
  <message>
   <source>Direction of that speed from north, clockwise.</source>
   <translation>Richtung dieser Geschwindigkeit von Nord, im Uhrzeigersinn.</translation>
  </message>
  <message>
   <source>outward</source>
   <translation>nach außen</translation>
  </message>
  <message>
   <source>Speed away from its middle as well, level from a disc; from an object straight off its faces.</source>
   <translation>Zusätzliche Geschwindigkeit von ihrer Mitte weg, bei einer Scheibe waagerecht; bei einem Objekt senkrecht von den Flächen.</translation>
  </message>
  <message>
   <source>begins after</source>
   <translation>beginnt nach</translation>
  </message>
  <message>
   <source>Counted from the first frame; at 0 it feeds through the pre-roll too.</source>
   <translation>Gezählt vom ersten Bild; bei 0 speist sie auch im Vorlauf.</translation>
  </message>
  <message>
   <source>lasts</source>
   <translation>dauert</translation>
  </message>
  <message>
   <source>How long it feeds; 0 goes on to the end.</source>
   <translation>Wie lange sie speist; 0 bis zum Ende.</translation>
  </message>
  <message>
   <source>unevenness</source>
   <translation>Ungleichheit</translation>
  </message>
  <message>
   <source>0 feeds evenly; above 1 in places only.</source>
   <translation>0 speist gleichmäßig; über 1 nur stellenweise.</translation>
  </message>
  <message>
   <source>Size of its patches.</source>
   <translation>Größe ihrer Flecken.</translation>
  </message>
  <message>
   <source>How often a second the patches are others.</source>
   <translation>Wie oft je Sekunde die Flecken andere sind.</translation>
  </message>
  <message>
   <source>Width, height and depth; a line is as thick as high.</source>
   <translation>Breite, Höhe und Tiefe; eine Linie ist so dick wie hoch.</translation>
  </message>
  <message>
   <source>A set, or a part of one, that it is fixed to.</source>
   <translation>Ein Set oder ein Teil davon, an dem sie hängt.</translation>
  </message>
  <message>
   <source>rides</source>
   <translation>fährt mit</translation>
  </message>
  <message>
   <source>Embers</source>
   <translation>Funken</translation>
  </message>
  <message>
   <source>The plume that carries them.</source>
   <translation>Die Fahne, die sie trägt.</translation>
  </message>
  <message>
   <source>born</source>
   <translation>entstehen</translation>
  </message>
  <message>
   <source>How many a second, from all that feeds the plume.</source>
   <translation>Wie viele je Sekunde, aus allem, was die Fahne speist.</translation>
  </message>
  <message>
   <source>life</source>
   <translation>Lebensdauer</translation>
  </message>
  <message>
   <source>How long one glows in the mean; some go out early, some late.</source>
   <translation>Wie lange einer im Mittel glüht; manche verlöschen früh, manche spät.</translation>
  </message>
  <message>
   <source>falls at</source>
   <translation>fällt mit</translation>
  </message>
  <message>
   <source>In still air: light flakes at some cm/s, splinters at metres a second.</source>
   <translation>In stiller Luft: leichte Flocken mit einigen cm/s, Splitter mit Metern je Sekunde.</translation>
  </message>
  <message>
   <source>leaps</source>
   <translation>Sprung</translation>
  </message>
  <message>
   <source>Speed of their own when they are born, upward and to all sides.</source>
   <translation>Eigene Geschwindigkeit, wenn sie entstehen, nach oben und nach allen Seiten.</translation>
  </message>
  <message>
   <source>Another number, others.</source>
   <translation>Eine andere Zahl, andere Funken.</translation>
  </message>
  <message>
   <source>How large they are, in the mean.</source>
   <translation>Wie groß sie im Mittel sind.</translation>
  </message>
  <message>
   <source>When they are born; they cool to a dull red.</source>
   <translation>Wenn sie entstehen; sie kühlen zu dunklem Rot.</translation>
  </message>
  <message>
   <source>Stops brighter than a body of that temperature is.</source>
   <translation>Blenden heller als ein Körper dieser Temperatur.</translation>
  </message>
  <message>
   <source>in</source>
   <translation>in</translation>
  </message>
  <message>
   <source>Probe</source>
   <translation>Messpunkt</translation>
  </message>
  <message>
   <source>The plume that it is put into.</source>
   <translation>Die Fahne, in der er steckt.</translation>
  </message>
  <message>
   <source>reads</source>
   <translation>misst</translation>
  </message>
  <message>
   <source>What it measures there; speed is that of the gas beside the wind.</source>
   <translation>Was er dort misst; Geschwindigkeit ist die des Gases ohne den Wind.</translation>
  </message>
  <message>
   <source>Where it measures.</source>
   <translation>Wo er misst.</translation>
  </message>
  <message>
   <source>mm an hour</source>
   <translation>mm je Stunde</translation>
  </message>
  <message>
   <source>Rain</source>
   <translation>Regen</translation>
  </message>
  <message>
   <source>Drizzle brings under 1 mm an hour, steady rain 2 to 8, a cloudburst 50 and more.</source>
   <translation>Niesel bringt unter 1 mm in der Stunde, Landregen 2 bis 8, ein Wolkenbruch 50 und mehr.</translation>
  </message>
  <message>
   <source>falls from</source>
   <translation>fällt aus</translation>
  </message>
  <message>
   <source>Height over 0 of the clouds that it comes from.</source>
   <translation>Höhe über 0 der Wolken, aus denen er kommt.</translation>
  </message>
  <message>
   <source>drawn at most</source>
   <translation>höchstens gezeichnet</translation>
  </message>
  <message>
   <source>About how many in sight are drawn one by one; the others are a veil. 0: all of it is.</source>
   <translation>So viele in Sicht werden etwa einzeln gezeichnet; die übrigen sind ein Schleier. 0: alle sind es.</translation>
  </message>
  <message>
   <source>blown at</source>
   <translation>verweht mit</translation>
  </message>
  <message>
   <source>Wind</source>
   <translation>Wind</translation>
  </message>
  <message>
   <source>How fast the air carries it sideways.</source>
   <translation>Wie schnell die Luft ihn zur Seite trägt.</translation>
  </message>
  <message>
   <source>Heading of that, clockwise from −Z seen from above.</source>
   <translation>Richtung davon, im Uhrzeigersinn ab −Z, von oben gesehen.</translation>
  </message>
  <message>
   <source>A Wind that carries it, in place of its own numbers: as that blows at the height of the camera.</source>
   <translation>Ein Wind, der ihn trägt, statt eigener Zahlen: wie er in der Höhe der Kamera weht.</translation>
  </message>
  <message>
   <source>splashes</source>
   <translation>Spritzer</translation>
  </message>
  <message>
   <source>Where it lands</source>
   <translation>Wo er landet</translation>
  </message>
  <message>
   <source>How much bursts up again where drops land near the eye; 100 %: as on stone.</source>
   <translation>Wie viel wieder aufspritzt, wo Tropfen nahe dem Auge landen; 100 %: wie auf Stein.</translation>
  </message>
  <message>
   <source>drips</source>
   <translation>Tropfkanten</translation>
  </message>
  <message>
   <source>Share of what falls on roofs, gates and twigs that drips from their edges, within 16 m.</source>
   <translation>Anteil dessen, was auf Dächer, Tore und Zweige fällt, der von ihren Kanten tropft, bis 16 m weit.</translation>
  </message>
  <message>
   <source>cm an hour</source>
   <translation>cm je Stunde</translation>
  </message>
  <message>
   <source>Snow</source>
   <translation>Schnee</translation>
  </message>
  <message>
   <source>How much more lies after an hour: flurries bring 0.2 cm, steady snow 1 to 2, a heavy fall 5.</source>
   <translation>Wie viel mehr nach einer Stunde liegt: Schauer bringen 0,2 cm, steter Schneefall 1 bis 2, starker 5.</translation>
  </message>
  <message>
   <source>At 273 K large wet flakes fall at 1.5 m/s, under 263 K small dry ones float at 0.6 m/s.</source>
   <translation>Bei 273 K fallen große nasse Flocken mit 1,5 m/s, unter 263 K schweben kleine trockene mit 0,6 m/s.</translation>
  </message>
  <message>
   <source>How thick it lies on open level ground.</source>
   <translation>Wie dick sie auf offenem ebenem Boden liegt.</translation>
  </message>
  <message>
   <source>fallen from</source>
   <translation>gefallen aus</translation>
  </message>
  <message>
   <source>A Snow that brings it: its centimetres an hour, and the way on which the wind drives its flakes.</source>
   <translation>Ein Schneefall, der sie bringt: seine Zentimeter je Stunde und der Weg, auf dem der Wind die Flocken treibt.</translation>
  </message>
  <message>
   <source>for so many hours</source>
   <translation>so viele Stunden</translation>
  </message>
  <message>
   <source>How long that Snow has fallen.</source>
   <translation>Wie lange dieser Schneefall gefallen ist.</translation>
  </message>
  <message>
   <source>melted</source>
   <translation>geschmolzen</translation>
  </message>
  <message>
   <source>Share of it that is gone again; what was thin goes first.</source>
   <translation>Anteil davon, der wieder fort ist; was dünn war, geht zuerst.</translation>
  </message>
  <message>
   <source>holds up to</source>
   <translation>hält bis</translation>
  </message>
  <message>
   <source>How it lies</source>
   <translation>Wie er liegt</translation>
  </message>
  <message>
   <source>Slope on which the last of it holds; on half of that it lies whole.</source>
   <translation>Hang, an dem das Letzte davon hält; auf halb so steilem liegt sie ganz.</translation>
  </message>
  <message>
   <source>drives in by</source>
   <translation>treibt hinein um</translation>
  </message>
  <message>
   <source>How far flakes part from their common way: how far it reaches in under eaves and trees.</source>
   <translation>Wie weit Flocken von ihrem gemeinsamen Weg abgehen: wie weit sie unter Traufen und Bäume reicht.</translation>
  </message>
  <message>
   <source>wind moves it</source>
   <translation>Wind verweht ihn</translation>
  </message>
  <message>
   <source>How much a strong wind sweeps off what stands free and piles up behind what shelters: from some 5 m/s on, as it blows on that Snow.</source>
   <translation>Wie viel starker Wind von dem fegt, was frei steht, und hinter dem anhäuft, was Schutz gibt: ab etwa 5 m/s, so wie er auf jenen Schnee weht.</translation>
  </message>
  <message>
   <source>Distance of its points near the camera; farther out they are wider apart.</source>
   <translation>Abstand ihrer Punkte nahe der Kamera; weiter draußen liegen sie weiter auseinander.</translation>
  </message>
  <message>
   <source>glitter</source>
   <translation>Glitzern</translation>
  </message>
  <message>
   <source>How much of its gloss are crystals that mirror sun or lamps by themselves. None is added: dry cold snow glitters, wet snow does not.</source>
   <translation>Wie viel seines Glanzes einzelne Kristalle sind, die Sonne oder Lampen spiegeln. Es kommt keins hinzu: trockener kalter Schnee glitzert, nasser nicht.</translation>
  </message>
  <message>
   <source>Another number, other lumps.</source>
   <translation>Eine andere Zahl, andere Buckel.</translation>
  </message>
  <message>
   <source>what</source>
   <translation>was</translation>
  </message>
  <message>
   <source>Drift</source>
   <translation>Drift</translation>
  </message>
  <message>
   <source>What it is that drifts.</source>
   <translation>Was da treibt.</translation>
  </message>
  <message>
   <source>leaves</source>
   <translation>Laub</translation>
  </message>
  <message>
   <source>narrow leaves</source>
   <translation>schmale Blätter</translation>
  </message>
  <message>
   <source>petals</source>
   <translation>Blüten</translation>
  </message>
  <message>
   <source>ash</source>
   <translation>Asche</translation>
  </message>
  <message>
   <source>dust</source>
   <translation>Staub</translation>
  </message>
  <message>
   <source>sand</source>
   <translation>Sand</translation>
  </message>
  <message>
   <source>a m² and second</source>
   <translation>je m² und Sekunde</translation>
  </message>
  <message>
   <source>How many come down on a square metre in a second.</source>
   <translation>Wie viele je Sekunde auf einen Quadratmeter herabkommen.</translation>
  </message>
  <message>
   <source>From stalk to tip.</source>
   <translation>Vom Stiel zur Spitze.</translation>
  </message>
  <message>
   <source>lying</source>
   <translation>liegend</translation>
  </message>
  <message>
   <source>Share of level ground under those that lie already.</source>
   <translation>Anteil ebenen Bodens unter denen, die schon liegen.</translation>
  </message>
  <message>
   <source>g/m³</source>
   <translation>g/m³</translation>
  </message>
  <message>
   <source>What a cubic metre holds near the ground: 0.01 is a dusty day, 1 a dust storm, 10 a sand storm.</source>
   <translation>Was ein Kubikmeter nahe dem Boden enthält: 0,01 ist ein staubiger Tag, 1 ein Staubsturm, 10 ein Sandsturm.</translation>
  </message>
  <message>
   <source>grain</source>
   <translation>Korn</translation>
  </message>
  <message>
   <source>Across one of them: dust 0.005 to 0.05 mm, sand 0.1 to 0.5 mm.</source>
   <translation>Quer über eines davon: Staub 0,005 bis 0,05 mm, Sand 0,1 bis 0,5 mm.</translation>
  </message>
  <message>
   <source>up to</source>
   <translation>bis</translation>
  </message>
  <message>
   <source>About the height up to which it is thick: sand some metres, dust hundreds. Twice as high is its top.</source>
   <translation>Etwa die Höhe, bis zu der es dicht ist: Sand einige Meter, Staub Hunderte. Doppelt so hoch ist das obere Ende.</translation>
  </message>
  <message>
   <source>Multiplied with its own colours.</source>
   <translation>Wird mit ihren eigenen Farben multipliziert.</translation>
  </message>
  <message>
   <source>Hail</source>
   <translation>Hagel</translation>
  </message>
  <message>
   <source>How thick a layer of ice it would lay in an hour.</source>
   <translation>Wie dick eine Eisschicht davon in einer Stunde läge.</translation>
  </message>
  <message>
   <source>Across the stones by whose weight half of it falls; there are many smaller and some larger ones.</source>
   <translation>Quer über die Körner, bis zu denen die Hälfte des Gewichts fällt; es gibt viele kleinere und einige größere.</translation>
  </message>
  <message>
   <source>Share of their speed with which stones leap up again: 40 % from stone, 10 % from grass.</source>
   <translation>Anteil ihrer Geschwindigkeit, mit der Körner wieder aufspringen: 40 % von Stein, 10 % von Gras.</translation>
  </message>
  <message>
   <source>Share of level ground under stones that lie already.</source>
   <translation>Anteil ebenen Bodens unter Körnern, die schon liegen.</translation>
  </message>
  <message>
   <source>begin in</source>
   <translation>beginnen in</translation>
  </message>
  <message>
   <source>A shape, or the surface of a set object.</source>
   <translation>Eine Form oder die Oberfläche eines Set-Objekts.</translation>
  </message>
  <message>
   <source>The set object whose faces they begin on.</source>
   <translation>Das Set-Objekt, auf dessen Flächen sie beginnen.</translation>
  </message>
  <message>
   <source>They begin on faces painted in the Picture, on no others; where none are, on all.</source>
   <translation>Sie beginnen auf im Bild bemalten Flächen, auf keinen anderen; wo keine sind, auf allen.</translation>
  </message>
  <message>
   <source>Only on faces of the material of this name; empty: all.</source>
   <translation>Nur auf Flächen aus dem Material dieses Namens; leer: alle.</translation>
  </message>
  <message>
   <source>Width, height and depth.</source>
   <translation>Breite, Höhe und Tiefe.</translation>
  </message>
  <message>
   <source>begin</source>
   <translation>beginnen</translation>
  </message>
  <message>
   <source>How many</source>
   <translation>Wie viele</translation>
  </message>
  <message>
   <source>How many a second.</source>
   <translation>Wie viele je Sekunde.</translation>
  </message>
  <message>
   <source>How long each is there in the mean; 0: to the end.</source>
   <translation>Wie lange jedes im Mittel da ist; 0: bis zum Ende.</translation>
  </message>
  <message>
   <source>What</source>
   <translation>Was</translation>
  </message>
  <message>
   <source>How they look and how they fly. Objects are those of a set; they fly as balls of that size do.</source>
   <translation>Wie sie aussehen und wie sie fliegen. Gegenstände sind die eines Sets; sie fliegen wie Kugeln dieser Größe.</translation>
  </message>
  <message>
   <source>balls</source>
   <translation>Kugeln</translation>
  </message>
  <message>
   <source>objects</source>
   <translation>Gegenstände</translation>
  </message>
  <message>
   <source>The set that each of them is a copy of; its own place does not matter, and it may be muted.</source>
   <translation>Das Set, von dem jedes eine Kopie ist; wo es selbst steht, ist gleich, und es darf stumm sein.</translation>
  </message>
  <message>
   <source>The name of one of its objects, such as a brick of a wall; empty: the whole set.</source>
   <translation>Der Name eines seiner Gegenstände, etwa ein Ziegel einer Mauer; leer: das ganze Set.</translation>
  </message>
  <message>
   <source>Across one of them, in the median.</source>
   <translation>Quer über eines davon, im Median.</translation>
  </message>
  <message>
   <source>sizes differ</source>
   <translation>Größen verschieden</translation>
  </message>
  <message>
   <source>0: all are alike; 0.7: a sixth of them is twice as large, a sixth half as large.</source>
   <translation>0: alle sind gleich; 0,7: ein Sechstel ist doppelt so groß, ein Sechstel halb so groß.</translation>
  </message>
  <message>
   <source>kg/m³</source>
   <translation>kg/m³</translation>
  </message>
  <message>
   <source>Cork 200, ice 900, stone 2600, iron 7800.</source>
   <translation>Kork 200, Eis 900, Stein 2600, Eisen 7800.</translation>
  </message>
  <message>
   <source>Multiplied with their own colours.</source>
   <translation>Wird mit ihren eigenen Farben multipliziert.</translation>
  </message>
  <message>
   <source>Begins with</source>
   <translation>Beginnt mit</translation>
  </message>
  <message>
   <source>With which they begin; 0 lets them go.</source>
   <translation>Mit der sie beginnen; 0 lässt sie los.</translation>
  </message>
  <message>
   <source>Speed off the faces that they begin on, or away from the middle, as well.</source>
   <translation>Zusätzliche Geschwindigkeit von den Flächen weg, auf denen sie beginnen, oder von der Mitte weg.</translation>
  </message>
  <message>
   <source>scatter</source>
   <translation>Streuung</translation>
  </message>
  <message>
   <source>To all sides, each its own.</source>
   <translation>Nach allen Seiten, jedes seine eigene.</translation>
  </message>
  <message>
   <source>A plume whose draught carries them, beside the wind and forces. Bake the plume first.</source>
   <translation>Eine Fahne, deren Zug sie trägt, neben Wind und Kräften. Die Fahne zuerst backen.</translation>
  </message>
  <message>
   <source>meet the set</source>
   <translation>treffen das Set</translation>
  </message>
  <message>
   <source>Where they land</source>
   <translation>Wo sie landen</translation>
  </message>
  <message>
   <source>Off: they go through everything.</source>
   <translation>Aus: sie gehen durch alles hindurch.</translation>
  </message>
  <message>
   <source>bounce</source>
   <translation>Rückprall</translation>
  </message>
  <message>
   <source>Share of their speed into a surface with which they leave it.</source>
   <translation>Anteil ihrer Geschwindigkeit in eine Fläche hinein, mit der sie sie verlassen.</translation>
  </message>
  <message>
   <source>friction</source>
   <translation>Reibung</translation>
  </message>
  <message>
   <source>0 slides like ice on ice; 0.6 holds on slopes up to 31°.</source>
   <translation>0 gleitet wie Eis auf Eis; 0,6 hält auf Hängen bis 31°.</translation>
  </message>
  <message>
   <source>lie for</source>
   <translation>liegen für</translation>
  </message>
  <message>
   <source>How long they lie until they are gone; 0: to the end.</source>
   <translation>Wie lange sie liegen, bis sie vergehen; 0: bis zum Ende.</translation>
  </message>
  <message>
   <source>first at</source>
   <translation>erster bei</translation>
  </message>
  <message>
   <source>Strikes</source>
   <translation>Blitze</translation>
  </message>
  <message>
   <source>When the first of them strikes, after frame 1.</source>
   <translation>Wann der erste davon einschlägt, nach Bild 1.</translation>
  </message>
  <message>
   <source>others a minute</source>
   <translation>weitere je Minute</translation>
  </message>
  <message>
   <source>Strikes that follow the first by chance, each on a way of its own; 0: it is the only one.</source>
   <translation>Einschläge, die dem ersten zufällig folgen, jeder auf eigenem Weg; 0: er ist der einzige.</translation>
  </message>
  <message>
   <source>beside it by</source>
   <translation>daneben um</translation>
  </message>
  <message>
   <source>How far from the first one the others come down.</source>
   <translation>Wie weit vom ersten die übrigen niedergehen.</translation>
  </message>
  <message>
   <source>strokes</source>
   <translation>Schläge</translation>
  </message>
  <message>
   <source>How often a strike flares up on average, about 60 ms apart: its flicker.</source>
   <translation>Wie oft ein Einschlag im Mittel aufflammt, etwa 60 ms auseinander: sein Flackern.</translation>
  </message>
  <message>
   <source>Another number, another way and other times.</source>
   <translation>Eine andere Zahl, ein anderer Weg und andere Zeiten.</translation>
  </message>
  <message>
   <source>from</source>
   <translation>von</translation>
  </message>
  <message>
   <source>Channel</source>
   <translation>Kanal</translation>
  </message>
  <message>
   <source>Where it begins: in the cloud.</source>
   <translation>Wo er beginnt: in der Wolke.</translation>
  </message>
  <message>
   <source>to</source>
   <translation>zu</translation>
  </message>
  <message>
   <source>Where it ends: on the ground, or in the air.</source>
   <translation>Wo er endet: am Boden oder in der Luft.</translation>
  </message>
  <message>
   <source>branches</source>
   <translation>Äste</translation>
  </message>
  <message>
   <source>How many side arms; 100 % is usual on the way to the ground.</source>
   <translation>Wie viele Seitenarme; 100 % ist auf dem Weg zum Boden üblich.</translation>
  </message>
  <message>
   <source>winding</source>
   <translation>Windung</translation>
  </message>
  <message>
   <source>How much a piece of it turns from the last on average; 16° was measured.</source>
   <translation>Wie weit ein Stück sich im Mittel gegen das vorige dreht; gemessen wurden 16°.</translation>
  </message>
  <message>
   <source>light of a stroke [kJ]</source>
   <translation>Licht eines Schlages [kJ]</translation>
  </message>
  <message>
   <source>Visible light of a strike's first stroke; 350 kJ was measured on average. Later ones have about half.</source>
   <translation>Sichtbares Licht des ersten Schlages; im Mittel wurden 350 kJ gemessen. Spätere haben etwa die Hälfte.</translation>
  </message>
  <message>
   <source>dies away in</source>
   <translation>verlischt in</translation>
  </message>
  <message>
   <source>Until a third is left of a stroke's light: 0.2 ms of the stroke alone, 40 to 150 ms with a current that goes on.</source>
   <translation>Bis ein Drittel vom Licht eines Schlages übrig ist: 0,2 ms beim Schlag allein, 40 bis 150 ms mit einem Strom, der weiterfließt.</translation>
  </message>
  <message>
   <source>Of the channel: its colour.</source>
   <translation>Des Kanals: seine Farbe.</translation>
  </message>
  <message>
   <source>wet</source>
   <translation>nass</translation>
  </message>
  <message>
   <source>Water</source>
   <translation>Wasser</translation>
  </message>
  <message>
   <source>How soaked what is open to the sky is: darker and smoother. Walls are half as wet, under sides dry.</source>
   <translation>Wie durchnässt ist, was zum Himmel offen ist: dunkler und glatter. Wände sind halb so nass, Unterseiten trocken.</translation>
  </message>
  <message>
   <source>puddles</source>
   <translation>Pfützen</translation>
  </message>
  <message>
   <source>Share of level ground about the camera that stands under water: in hollows, the deep ones first.</source>
   <translation>Anteil ebenen Bodens um die Kamera, der unter Wasser steht: in Mulden, die tiefen zuerst.</translation>
  </message>
  <message>
   <source>puddle size</source>
   <translation>Pfützengröße</translation>
  </message>
  <message>
   <source>How far apart hollows are that the sets do not have themselves.</source>
   <translation>Wie weit Mulden auseinanderliegen, die die Sets nicht selbst haben.</translation>
  </message>
  <message>
   <source>How deep these are, of their size; 0: the sets' own hollows alone hold water.</source>
   <translation>Wie tief diese sind, ihrer Größe; 0: nur die Mulden der Sets selbst halten Wasser.</translation>
  </message>
  <message>
   <source>runs down</source>
   <translation>rinnt herab</translation>
  </message>
  <message>
   <source>While it rains: how much of steep places has water running down it in streams.</source>
   <translation>Während es regnet: an wie viel von dem, was steil ist, Wasser in Rinnsalen herabläuft.</translation>
  </message>
  <message>
   <source>rises in</source>
   <translation>steigt in</translation>
  </message>
  <message>
   <source>Over time</source>
   <translation>Über die Zeit</translation>
  </message>
  <message>
   <source>From the first frame on puddles come to stand as they are set, in so long; 0: they do already.</source>
   <translation>Vom ersten Bild an stehen Pfützen nach so langer Zeit, wie sie eingestellt sind; 0: schon jetzt.</translation>
  </message>
  <message>
   <source>dries by half in</source>
   <translation>trocknet halb in</translation>
  </message>
  <message>
   <source>Half of the water is gone after this, and half of the rest after as long again; 0: it stays.</source>
   <translation>Danach ist die Hälfte des Wassers fort, und nach noch einmal so lange die Hälfte des Rests; 0: es bleibt.</translation>
  </message>
  <message>
   <source>Seconds after the first frame at which it begins to dry.</source>
   <translation>Sekunden nach dem ersten Bild, ab denen es trocknet.</translation>
  </message>
  <message>
   <source>Another number, other puddles.</source>
   <translation>Eine andere Zahl, andere Pfützen.</translation>
  </message>
  <message>
   <source>on</source>
   <translation>an</translation>
  </message>
  <message>
   <source>The set that is wet; nothing chosen: all.</source>
   <translation>Das Set, das nass ist; nichts gewählt: alle.</translation>
  </message>
  <message>
   <source>Mean speed at the reference height.</source>
   <translation>Mittlere Geschwindigkeit in der Bezugshöhe.</translation>
  </message>
  <message>
   <source>Where it blows to, clockwise from −Z seen from above.</source>
   <translation>Wohin er weht, im Uhrzeigersinn ab −Z, von oben gesehen.</translation>
  </message>
  <message>
   <source>at a height of</source>
   <translation>in einer Höhe von</translation>
  </message>
  <message>
   <source>Height over the ground where the speed is what is set; weather stations have 10 m.</source>
   <translation>Höhe über dem Boden, in der die eingestellte Geschwindigkeit gilt; Wetterstationen haben 10 m.</translation>
  </message>
  <message>
   <source>roughness</source>
   <translation>Rauigkeit</translation>
  </message>
  <message>
   <source>Roughness length of the ground: 0.2 mm over water, 3 cm over grass, half a metre in a village. The rougher, the slower it is below.</source>
   <translation>Rauigkeitslänge des Bodens: 0,2 mm über Wasser, 3 cm über Gras, ein halber Meter in einem Dorf. Je rauer, desto langsamer ist er unten.</translation>
  </message>
  <message>
   <source>Height of the ground over which it blows.</source>
   <translation>Höhe des Bodens, über den er weht.</translation>
  </message>
  <message>
   <source>gusts</source>
   <translation>Böen</translation>
  </message>
  <message>
   <source>Gusts</source>
   <translation>Böen</translation>
  </message>
  <message>
   <source>How much it varies: standard deviation of each component as a share of the speed.</source>
   <translation>Wie sehr er schwankt: Standardabweichung jeder Komponente als Anteil der Geschwindigkeit.</translation>
  </message>
  <message>
   <source>Size of the largest eddies; smaller ones come with them.</source>
   <translation>Größe der größten Wirbel; kleinere kommen mit ihnen.</translation>
  </message>
  <message>
   <source>change</source>
   <translation>Wechsel</translation>
  </message>
  <message>
   <source>How often a second the eddies change while they are carried along.</source>
   <translation>Wie oft je Sekunde die Wirbel andere werden, während sie fortgetragen werden.</translation>
  </message>
  <message>
   <source>Another number, other gusts.</source>
   <translation>Eine andere Zahl, andere Böen.</translation>
  </message>
  <message>
   <source>Force</source>
   <translation>Kraft</translation>
  </message>
  <message>
   <source>Eddies; a turning about an axis; toward its middle or away from it; or slowing what passes.</source>
   <translation>Wirbel; eine Drehung um eine Achse; zur Mitte hin oder von ihr weg; oder Bremsen dessen, was hindurchgeht.</translation>
  </message>
  <message>
   <source>turbulence</source>
   <translation>Turbulenz</translation>
  </message>
  <message>
   <source>swirl</source>
   <translation>Strudel</translation>
  </message>
  <message>
   <source>pull</source>
   <translation>Zug</translation>
  </message>
  <message>
   <source>How fast its eddies are: standard deviation of each component.</source>
   <translation>Wie schnell ihre Wirbel sind: Standardabweichung jeder Komponente.</translation>
  </message>
  <message>
   <source>eddies</source>
   <translation>Wirbel</translation>
  </message>
  <message>
   <source>How often a second the eddies are others.</source>
   <translation>Wie oft je Sekunde die Wirbel andere sind.</translation>
  </message>
  <message>
   <source>Another number, other eddies.</source>
   <translation>Eine andere Zahl, andere Wirbel.</translation>
  </message>
  <message>
   <source>turns</source>
   <translation>Drehung</translation>
  </message>
  <message>
   <source>Turns a second inside its radius, as the sun goes; below zero the other way round.</source>
   <translation>Umdrehungen je Sekunde innerhalb ihres Radius, wie die Sonne geht; unter null andersherum.</translation>
  </message>
  <message>
   <source>Where it is fastest; outside of it the speed falls with the distance.</source>
   <translation>Wo sie am schnellsten ist; außerhalb fällt die Geschwindigkeit mit dem Abstand.</translation>
  </message>
  <message>
   <source>leans</source>
   <translation>Neigung</translation>
  </message>
  <message>
   <source>How far its axis leans from the vertical.</source>
   <translation>Wie weit ihre Achse von der Senkrechten abweicht.</translation>
  </message>
  <message>
   <source>Where its axis leans to, clockwise from −Z seen from above.</source>
   <translation>Wohin ihre Achse sich neigt, im Uhrzeigersinn ab −Z, von oben gesehen.</translation>
  </message>
  <message>
   <source>Toward its middle; below zero it pushes away. Gas with heat or smoke in it takes it.</source>
   <translation>Zur Mitte hin; unter null drückt sie weg. Gas mit Wärme oder Rauch nimmt sie an.</translation>
  </message>
  <message>
   <source>Where it pulls: to its middle, or from everywhere to the nearest place of a set object.</source>
   <translation>Wohin sie zieht: zu ihrer Mitte oder von überall zur nächsten Stelle eines Gegenstands.</translation>
  </message>
  <message>
   <source>middle</source>
   <translation>Mitte</translation>
  </message>
  <message>
   <source>The set object whose surface it pulls to, as far as that lies where the force acts.</source>
   <translation>Der Gegenstand, zu dessen Oberfläche sie zieht, soweit die dort liegt, wo die Kraft wirkt.</translation>
  </message>
  <message>
   <source>takes hold</source>
   <translation>greift</translation>
  </message>
  <message>
   <source>How fast gas takes the motion on: share a second.</source>
   <translation>Wie schnell Gas die Bewegung annimmt: Anteil je Sekunde.</translation>
  </message>
  <message>
   <source>Width, height and depth of the rounded space that it acts in; full in the middle, none at the border.</source>
   <translation>Breite, Höhe und Tiefe des gerundeten Raumes, in dem sie wirkt; voll in der Mitte, nichts am Rand.</translation>
  </message>
  <message>
   <source>points</source>
   <translation>Punkte</translation>
  </message>
  <message>
   <source>Tracers</source>
   <translation>Leitpunkte</translation>
  </message>
  <message>
   <source>How many there are; of more than two thousand only some are drawn.</source>
   <translation>Wie viele es sind; von mehr als zweitausend werden nur manche gezeichnet.</translation>
  </message>
  <message>
   <source>How long one is carried before it begins anew in the box.</source>
   <translation>Wie lange einer getragen wird, bevor er im Quader neu beginnt.</translation>
  </message>
  <message>
   <source>Middle of the box they begin in.</source>
   <translation>Mitte des Quaders, in dem sie beginnen.</translation>
  </message>
  <message>
   <source>Width, height and depth of the box.</source>
   <translation>Breite, Höhe und Tiefe des Quaders.</translation>
  </message>
  <message>
   <source>Another number, other places.</source>
   <translation>Eine andere Zahl, andere Orte.</translation>
  </message>
  <message>
   <source>trail</source>
   <translation>Spur</translation>
  </message>
  <message>
   <source>How much of its way behind a point is drawn.</source>
   <translation>Wie viel des Weges hinter einem Punkt gezeichnet wird.</translation>
  </message>
  <message>
   <source>level</source>
   <translation>Stand</translation>
  </message>
  <message>
   <source>Height over 0 at which it would lie still.</source>
   <translation>Höhe über 0, in der es still läge.</translation>
  </message>
  <message>
   <source>Of the ground under it, for its waves: over shallow ground they are lower, shorter and slower.</source>
   <translation>Des Bodens darunter, für seine Wellen: über flachem Boden sind sie niedriger, kürzer und langsamer.</translation>
  </message>
  <message>
   <source>water</source>
   <translation>Wasser</translation>
  </message>
  <message>
   <source>What is in it: its colour, and how far one sees into it.</source>
   <translation>Was darin ist: seine Farbe, und wie weit man hineinsieht.</translation>
  </message>
  <message>
   <source>clear</source>
   <translation>klar</translation>
  </message>
  <message>
   <source>coast</source>
   <translation>Küste</translation>
  </message>
  <message>
   <source>lake</source>
   <translation>See</translation>
  </message>
  <message>
   <source>pond</source>
   <translation>Teich</translation>
  </message>
  <message>
   <source>silt</source>
   <translation>Schlick</translation>
  </message>
  <message>
   <source>peat</source>
   <translation>Moor</translation>
  </message>
  <message>
   <source>foam</source>
   <translation>Schaum</translation>
  </message>
  <message>
   <source>White where waves break, of the share that is usual in such wind; and in wakes and at shores. 0: none.</source>
   <translation>Weiß, wo Wellen brechen, anteilig zu dem bei solchem Wind üblichen; und in Kielwassern und an Ufern. 0: keiner.</translation>
  </message>
  <message>
   <source>foam lasts</source>
   <translation>Schaum hält</translation>
  </message>
  <message>
   <source>Time in which half of the foam that waves and wakes leave behind is gone.</source>
   <translation>Zeit, in der die Hälfte des Schaums vergeht, den Wellen und Kielwasser hinterlassen.</translation>
  </message>
  <message>
   <source>spray</source>
   <translation>Gischt</translation>
  </message>
  <message>
   <source>Water that flies: at bows, where something falls in, where waves run up at what stands in them, and off crests in strong wind. 0: none.</source>
   <translation>Wasser, das fliegt: am Bug, wo etwas hineinfällt, wo Wellen anlaufen, und von Kämmen bei starkem Wind. 0: keine.</translation>
  </message>
  <message>
   <source>wind</source>
   <translation>Wind</translation>
  </message>
  <message>
   <source>Waves</source>
   <translation>Wellen</translation>
  </message>
  <message>
   <source>Of the wind that makes its waves, 10 m over it.</source>
   <translation>Des Windes, der seine Wellen macht, 10 m darüber.</translation>
  </message>
  <message>
   <source>blows toward</source>
   <translation>weht nach</translation>
  </message>
  <message>
   <source>Heading of that wind, clockwise from −Z seen from above.</source>
   <translation>Richtung dieses Windes, im Uhrzeigersinn ab −Z, von oben gesehen.</translation>
  </message>
  <message>
   <source>made by</source>
   <translation>gemacht von</translation>
  </message>
  <message>
   <source>A Wind that makes its waves, in place of its own numbers.</source>
   <translation>Ein Wind, der seine Wellen macht, statt eigener Zahlen.</translation>
  </message>
  <message>
   <source>blows over</source>
   <translation>weht über</translation>
  </message>
  <message>
   <source>How much water the wind has run over: a pond 100 m, a lake 5 km, a sea 300 km.</source>
   <translation>Über wie viel Wasser der Wind gelaufen ist: ein Teich 100 m, ein See 5 km, ein Meer 300 km.</translation>
  </message>
  <message>
   <source>choppiness</source>
   <translation>Spitzigkeit</translation>
  </message>
  <message>
   <source>How much waves lean together at their crests: 100 % as water does, more is sharper.</source>
   <translation>Wie sehr Wellen sich an ihren Kämmen zueinander neigen: 100 % wie Wasser, mehr ist schärfer.</translation>
  </message>
  <message>
   <source>holds folds</source>
   <translation>hält Überschläge</translation>
  </message>
  <message>
   <source>Takes choppiness back where too much of the surface would fold over itself.</source>
   <translation>Nimmt Spitzigkeit zurück, wo zu viel der Oberfläche sich überschlüge.</translation>
  </message>
  <message>
   <source>at most</source>
   <translation>höchstens</translation>
  </message>
  <message>
   <source>Share of the surface that may fold over itself.</source>
   <translation>Anteil der Oberfläche, der sich überschlagen darf.</translation>
  </message>
  <message>
   <source>Heights of all waves, of what that wind makes.</source>
   <translation>Höhe aller Wellen, im Verhältnis zu denen, die der Wind macht.</translation>
  </message>
  <message>
   <source>wakes</source>
   <translation>Kielwasser</translation>
  </message>
  <message>
   <source>Waves of sets that move in it, by keys or a clip, of what they push aside; 0: none.</source>
   <translation>Wellen von Sets, die sich durch Keys oder einen Clip darin bewegen, aus dem, was sie verdrängen; 0: keine.</translation>
  </message>
  <message>
   <source>keeps to the wind</source>
   <translation>hält sich zum Wind</translation>
  </message>
  <message>
   <source>How closely waves run with the wind: 100 % as at sea, less is confused, more is rank behind rank.</source>
   <translation>Wie eng Wellen mit dem Wind laufen: 100 % wie auf See, weniger ist wirr, mehr ist Reihe hinter Reihe.</translation>
  </message>
  <message>
   <source>against it</source>
   <translation>gegen ihn</translation>
  </message>
  <message>
   <source>Share of the waves' energy that runs against the wind, as what a shore throws back.</source>
   <translation>Anteil der Wellenenergie, der gegen den Wind läuft, wie was ein Ufer zurückwirft.</translation>
  </message>
  <message>
   <source>shortest wave</source>
   <translation>kürzeste Welle</translation>
  </message>
  <message>
   <source>Shorter ones are a roughness of the surface and no shape.</source>
   <translation>Kürzere sind Rauigkeit der Oberfläche und keine Form.</translation>
  </message>
  <message>
   <source>How fast its time runs: under 100 % waves look larger.</source>
   <translation>Wie schnell seine Zeit läuft: unter 100 % sehen Wellen größer aus.</translation>
  </message>
  <message>
   <source>How many waves there are: finer repeats later and takes longer.</source>
   <translation>Wie viele Wellen es sind: feiner wiederholt sich später und dauert länger.</translation>
  </message>
  <message>
   <source>quick</source>
   <translation>schnell</translation>
  </message>
  <message>
   <source>fine</source>
   <translation>fein</translation>
  </message>
  <message>
   <source>finest</source>
   <translation>feinst</translation>
  </message>
  <message>
   <source>Another number, other waves.</source>
   <translation>Eine andere Zahl, andere Wellen.</translation>
  </message>
  <message>
   <source>Swell from elsewhere</source>
   <translation>Dünung von fern</translation>
  </message>
  <message>
   <source>Significant height of waves that come from far away; 0: none.</source>
   <translation>Signifikante Höhe von Wellen, die von weit her kommen; 0: keine.</translation>
  </message>
  <message>
   <source>From crest to crest.</source>
   <translation>Von Kamm zu Kamm.</translation>
  </message>
  <message>
   <source>runs toward</source>
   <translation>läuft nach</translation>
  </message>
  <message>
   <source>Heading, clockwise from −Z seen from above.</source>
   <translation>Richtung, im Uhrzeigersinn ab −Z, von oben gesehen.</translation>
  </message>
  <message>
   <source>How high the water stands over the place where it was set down.</source>
   <translation>Wie hoch das Wasser über dem Ort steht, an dem es gesetzt wurde.</translation>
  </message>
  <message>
   <source>A place on the ground under it; the water is all that hangs together with it.</source>
   <translation>Ein Ort am Boden darunter; das Wasser ist alles, was mit ihm zusammenhängt.</translation>
  </message>
  <message>
   <source>reach</source>
   <translation>Reichweite</translation>
  </message>
  <message>
   <source>It is looked for no farther from there.</source>
   <translation>Weiter weg wird es nicht gesucht.</translation>
  </message>
  <message>
   <source>runs on</source>
   <translation>läuft weiter</translation>
  </message>
  <message>
   <source>Stands as far as its reach where no walls close around it, as in a reach of a canal.</source>
   <translation>Steht bis zu seiner Reichweite, wo keine Wände es umschließen, wie in einer Haltung eines Kanals.</translation>
  </message>
  <message>
   <source>Where it is moored; its height is the water's.</source>
   <translation>Wo sie vertäut ist; ihre Höhe ist die des Wassers.</translation>
  </message>
  <message>
   <source>focal length</source>
   <translation>Brennweite</translation>
  </message>
  <message>
   <source>Lens</source>
   <translation>Objektiv</translation>
  </message>
  <message>
   <source>Focal length of the lens.</source>
   <translation>Brennweite des Objektivs.</translation>
  </message>
  <message>
   <source>sensor width</source>
   <translation>Sensorbreite</translation>
  </message>
  <message>
   <source>Width of the recorded frame.</source>
   <translation>Breite des aufgenommenen Bildes.</translation>
  </message>
  <message>
   <source>depth of field</source>
   <translation>Schärfentiefe</translation>
  </message>
  <message>
   <source>What is nearer or farther than the focus is blurred; off, all is sharp.</source>
   <translation>Was näher oder ferner als der Fokus ist, wird unscharf; aus, alles ist scharf.</translation>
  </message>
  <message>
   <source>focus</source>
   <translation>Fokus</translation>
  </message>
  <message>
   <source>Distance along the camera's axis of what is sharp.</source>
   <translation>Abstand längs der Achse der Kamera dessen, was scharf ist.</translation>
  </message>
  <message>
   <source>f-number</source>
   <translation>Blende</translation>
  </message>
  <message>
   <source>Focal length by the aperture's width: 1.4 blurs much, 16 little.</source>
   <translation>Brennweite durch Weite der Blende: 1,4 macht viel unscharf, 16 wenig.</translation>
  </message>
  <message>
   <source>Where the camera stands.</source>
   <translation>Wo die Kamera steht.</translation>
  </message>
  <message>
   <source>The point in the middle of the picture.</source>
   <translation>Der Punkt in der Mitte des Bildes.</translation>
  </message>
  <message>
   <source>Turn about the way it looks: above 0 clockwise, and the horizon rises to the right.</source>
   <translation>Drehung um die Blickrichtung: über 0 im Uhrzeigersinn, und der Horizont steigt nach rechts.</translation>
  </message>
  <message>
   <source>A set, or a part of one, that it rides and leans with: place and aim are then in that one's own metres.</source>
   <translation>Ein Set oder ein Teil davon, mit dem sie fährt und sich neigt: Ort und Ziel zählen dann in dessen eigenen Metern.</translation>
  </message>
  <message>
   <source>exposure</source>
   <translation>Belichtung</translation>
  </message>
  <message>
   <source>Tone</source>
   <translation>Ton</translation>
  </message>
  <message>
   <source>Stops by which the picture is brightened.</source>
   <translation>Blenden, um die das Bild aufgehellt wird.</translation>
  </message>
  <message>
   <source>neutral at</source>
   <translation>neutral bei</translation>
  </message>
  <message>
   <source>Colour temperature of the light that is to look white: lower cools the picture, higher warms it.</source>
   <translation>Farbtemperatur des Lichts, das weiß aussehen soll: niedriger kühlt das Bild, höher wärmt es.</translation>
  </message>
  <message>
   <source>tone curve</source>
   <translation>Tonkurve</translation>
  </message>
  <message>
   <source>From stops around middle grey to displayed light; always rising.</source>
   <translation>Von Blenden um mittleres Grau zu gezeigtem Licht; immer steigend.</translation>
  </message>
  <message>
   <source>bright colours pale</source>
   <translation>helle Farben bleichen</translation>
  </message>
  <message>
   <source>How much colour light loses that is far brighter than white, as on film: flames turn white-yellow inside and keep their red edge. Colours below white stay as they are.</source>
   <translation>Wie viel Farbe Licht verliert, das weit heller als Weiß ist, wie auf Film: Flammen werden innen weißgelb und behalten ihren roten Rand. Farben unter Weiß bleiben, wie sie sind.</translation>
  </message>
  <message>
   <source>Share of the brightest light that the lens scatters around it. No light is added. Pictures as shown and PNG have it; EXR by choice.</source>
   <translation>Anteil des hellsten Lichts, den das Objektiv darum streut. Kein Licht kommt hinzu. Bilder, wie sie gezeigt werden, und PNG haben es; EXR auf Wunsch.</translation>
  </message>
  <message>
   <source>above white by</source>
   <translation>über Weiß um</translation>
  </message>
  <message>
   <source>Stops above white at which light begins to glow.</source>
   <translation>Blenden über Weiß, ab denen Licht zu glühen beginnt.</translation>
  </message>
  <message>
   <source>reaches</source>
   <translation>reicht</translation>
  </message>
  <message>
   <source>How far it reaches, as a share of the picture's height.</source>
   <translation>Wie weit es reicht, als Anteil der Bildhöhe.</translation>
  </message>
  <message>
   <source>configuration</source>
   <translation>Konfiguration</translation>
  </message>
  <message>
   <source>Colour configuration</source>
   <translation>Farbkonfiguration</translation>
  </message>
  <message>
   <source>An OpenColorIO configuration that shows the picture, on screen and in PNG: exposure and neutral point come before it, a colour table after it. It takes the place of tone curve and paling. EXR stays linear.</source>
   <translation>Eine OpenColorIO-Konfiguration, die das Bild zeigt, am Schirm und in PNG: Belichtung und Neutralpunkt kommen davor, eine Farbtabelle danach. Sie steht an der Stelle von Tonkurve und Ausbleichen. EXR bleibt linear.</translation>
  </message>
  <message>
   <source>display</source>
   <translation>Anzeige</translation>
  </message>
  <message>
   <source>Which of its displays the picture is made for; empty: the one that it names first.</source>
   <translation>Für welche ihrer Anzeigen das Bild gemacht wird; leer: die zuerst genannte.</translation>
  </message>
  <message>
   <source>view</source>
   <translation>Ansicht</translation>
  </message>
  <message>
   <source>Which of that display's views; empty: its own choice.</source>
   <translation>Welche Ansicht dieser Anzeige; leer: ihre eigene Wahl.</translation>
  </message>
  <message>
   <source>light counts as</source>
   <translation>Licht gilt als</translation>
  </message>
  <message>
   <source>Which of its colour spaces our light is: linear, with the primaries of Rec. 709. Empty: it is converted to ACES2065-1 where the configuration names that, else taken as its scene_linear.</source>
   <translation>Welcher ihrer Farbräume unser Licht ist: linear, mit den Primärfarben von Rec. 709. Leer: Es wird nach ACES2065-1 umgerechnet, wo die Konfiguration das nennt, sonst gilt es als ihr scene_linear.</translation>
  </message>
  <message>
   <source>colour table</source>
   <translation>Farbtabelle</translation>
  </message>
  <message>
   <source>Colour table</source>
   <translation>Farbtabelle</translation>
  </message>
  <message>
   <source>A .cube file that the picture passes last, as shown and in PNG: a look that was made elsewhere. EXR stays linear and knows nothing of it.</source>
   <translation>Eine .cube-Datei, durch die das Bild zuletzt geht, im Fenster und in PNG: ein Look, der anderswo entstand. EXR bleibt linear und weiß nichts davon.</translation>
  </message>
  <message>
   <source>it takes</source>
   <translation>sie nimmt</translation>
  </message>
  <message>
   <source>What its numbers are made for. The picture as shown: after the tone curve. Light in stops: 0 to 1 are the stops below, around middle grey. ACEScct: that encoding of light. With light it takes the tone curve's place, and that of a configuration.</source>
   <translation>Wofür ihre Zahlen gemacht sind. Bild wie gezeigt: nach der Tonkurve. Licht in Blenden: 0 bis 1 sind die Blenden unten, um mittleres Grau. ACEScct: diese Kodierung von Licht. Mit Licht tritt sie an die Stelle der Tonkurve und der einer Konfiguration.</translation>
  </message>
  <message>
   <source>picture as shown</source>
   <translation>Bild wie gezeigt</translation>
  </message>
  <message>
   <source>light in stops</source>
   <translation>Licht in Blenden</translation>
  </message>
  <message>
   <source>ACEScct</source>
   <translation>ACEScct</translation>
  </message>
  <message>
   <source>0 is at</source>
   <translation>0 liegt bei</translation>
  </message>
  <message>
   <source>Stops around middle grey that the table's 0 stands for.</source>
   <translation>Blenden um mittleres Grau, für die die 0 der Tabelle steht.</translation>
  </message>
  <message>
   <source>1 is at</source>
   <translation>1 liegt bei</translation>
  </message>
  <message>
   <source>Stops around middle grey that the table's 1 stands for.</source>
   <translation>Blenden um mittleres Grau, für die die 1 der Tabelle steht.</translation>
  </message>
  <message>
   <source>how much</source>
   <translation>wie viel</translation>
  </message>
  <message>
   <source>How much of it the picture takes; the rest stays as it would be without.</source>
   <translation>Wie viel das Bild davon annimmt; der Rest bleibt, wie er ohne sie wäre.</translation>
  </message>
  <message>
   <source>All air</source>
   <translation>Alle Luft</translation>
  </message>
  <message>
   <source>Air</source>
   <translation>Luft</translation>
  </message>
  <message>
   <source>One density for all haze, banks, decks and volumes together.</source>
   <translation>Eine Dichte für allen Dunst, alle Bänke, Decken und Volumen gemeinsam.</translation>
  </message>
  <message>
   <source>Haze</source>
   <translation>Dunst</translation>
  </message>
  <message>
   <source>The air everywhere: even, or thinning with height.</source>
   <translation>Die Luft überall: gleichmäßig, oder mit der Höhe dünner.</translation>
  </message>
  <message>
   <source>Fog bank</source>
   <translation>Nebelbank</translation>
  </message>
  <message>
   <source>Bounded fog with noise: a layer, a box, a sphere, a cylinder, the inside of a set object, or what lies on the ground.</source>
   <translation>Begrenzter Nebel mit Rauschen: eine Schicht, ein Quader, eine Kugel, ein Zylinder, das Innere eines Set-Objekts, oder was auf dem Boden liegt.</translation>
  </message>
  <message>
   <source>Cloud deck</source>
   <translation>Wolkendecke</translation>
  </message>
  <message>
   <source>A layer of cloud aloft, to the horizon, with gaps and a shadow.</source>
   <translation>Eine Wolkenschicht in der Höhe, bis zum Horizont, mit Lücken und Schatten.</translation>
  </message>
  <message>
   <source>Volume</source>
   <translation>Volumen</translation>
  </message>
  <message>
   <source>Smoke, fire or cloud from an OpenVDB file or a numbered sequence of them, or from a shape.</source>
   <translation>Rauch, Feuer oder Wolke aus einer OpenVDB-Datei, einer nummerierten Folge davon oder einer Form.</translation>
  </message>
  <message>
   <source>Tint</source>
   <translation>Tönung</translation>
  </message>
  <message>
   <source>Colours laid over a volume: along an axis, from a point, by its density, its heat or noise. Several stack.</source>
   <translation>Farben über einem Volumen: längs einer Achse, von einem Punkt aus, nach Dichte, Wärme oder Rauschen. Mehrere liegen übereinander.</translation>
  </message>
  <message>
   <source>Makes one volume of two: together, one times the other, one cut by the other; or blurs and resamples one. They are done in the order of their cards.</source>
   <translation>Macht aus zwei Volumen eines: zusammen, eins mal das andere, eins ohne das andere; oder zeichnet eines weich und tastet es neu ab. In der Reihenfolge ihrer Karten.</translation>
  </message>
  <message>
   <source>Many of one volume, scattered over a box or a surface, each turned, sized and timed by chance. They share its memory.</source>
   <translation>Viele von einem Volumen, über einen Quader oder eine Fläche gestreut, jede zufällig gedreht, groß und zeitversetzt. Sie teilen sich seinen Speicher.</translation>
  </message>
  <message>
   <source>Veil</source>
   <translation>Schleier</translation>
  </message>
  <message>
   <source>The cheap haze: colours laid over the picture by distance and height. No light acts on it.</source>
   <translation>Der billige Dunst: Farben über dem Bild nach Abstand und Höhe. Kein Licht wirkt auf ihn.</translation>
  </message>
  <message>
   <source>Sun and sky</source>
   <translation>Sonne und Himmel</translation>
  </message>
  <message>
   <source>Lights</source>
   <translation>Licht</translation>
  </message>
  <message>
   <source>The sun, or the moon, with the sky around it.</source>
   <translation>Die Sonne oder der Mond mit dem Himmel ringsum.</translation>
  </message>
  <message>
   <source>Spot lamp</source>
   <translation>Spotlampe</translation>
  </message>
  <message>
   <source>A lamp that fills a cone; its beam leaves the lamp as wide as the lamp is.</source>
   <translation>Eine Lampe, die einen Kegel füllt; ihr Strahl verlässt sie so breit, wie sie ist.</translation>
  </message>
  <message>
   <source>Bulb</source>
   <translation>Glühlampe</translation>
  </message>
  <message>
   <source>A glowing ball that shines all around.</source>
   <translation>Eine leuchtende Kugel, die ringsum scheint.</translation>
  </message>
  <message>
   <source>Panel</source>
   <translation>Leuchttafel</translation>
  </message>
  <message>
   <source>A flat matte light, rectangular or round, that shines to one side.</source>
   <translation>Ein flaches mattes Licht, rechteckig oder rund, das nach einer Seite scheint.</translation>
  </message>
  <message>
   <source>Tube</source>
   <translation>Röhre</translation>
  </message>
  <message>
   <source>A long thin light.</source>
   <translation>Ein langes dünnes Licht.</translation>
  </message>
  <message>
   <source>Parallel beam</source>
   <translation>Parallelstrahl</translation>
  </message>
  <message>
   <source>Light whose rays run side by side, as wide as you like: a searchlight, a shaft, another sun.</source>
   <translation>Licht, dessen Strahlen nebeneinander laufen, so breit man will: ein Suchscheinwerfer, ein Lichtbalken, eine andere Sonne.</translation>
  </message>
  <message>
   <source>Set</source>
   <translation>Set</translation>
  </message>
  <message>
   <source>Geometry from a glTF, OBJ, PLY or FBX file.</source>
   <translation>Geometrie aus einer glTF-, OBJ-, PLY- oder FBX-Datei.</translation>
  </message>
  <message>
   <source>Copies of objects</source>
   <translation>Objektkopien</translation>
  </message>
  <message>
   <source>Many of one set, or of one object of it, scattered over a box or a surface, each turned and sized by chance. They share its memory.</source>
   <translation>Viele von einem Set oder einem Objekt daraus, über einen Quader oder eine Fläche gestreut, jede zufällig gedreht und groß. Sie teilen sich seinen Speicher.</translation>
  </message>
  <message>
   <source>Plate</source>
   <translation>Plate</translation>
  </message>
  <message>
   <source>A picture with its depth; its pixels are never changed.</source>
   <translation>Ein Bild mit seiner Tiefe; seine Bildpunkte werden nie verändert.</translation>
  </message>
  <message>
   <source>Plume</source>
   <translation>Fahne</translation>
  </message>
  <message>
   <source>A body of simulated gas: smoke, fire, steam, dust. Feeds fill it; bake it to see it.</source>
   <translation>Ein Körper aus simuliertem Gas: Rauch, Feuer, Dampf, Staub. Speisungen füllen sie; gebacken ist sie zu sehen.</translation>
  </message>
  <message>
   <source>What feeds a plume: a shape or an object that gives it heat, fuel and smoke.</source>
   <translation>Was eine Fahne speist: eine Form oder ein Objekt, das ihr Hitze, Brennstoff und Rauch gibt.</translation>
  </message>
  <message>
   <source>Sparks that a plume carries up: they glow, cool, fall and go out. Bake the plume, then these.</source>
   <translation>Funken, die eine Fahne hinaufträgt: sie glühen, kühlen, fallen und verlöschen. Erst die Fahne backen, dann diese.</translation>
  </message>
  <message>
   <source>A place in a plume whose temperature, smoke, speed or fuel is read: now on its card, over time on the Motion page.</source>
   <translation>Ein Ort in einer Fahne, dessen Temperatur, Rauch, Geschwindigkeit oder Brennstoff gemessen wird: jetzt auf der Karte, über die Zeit auf der Seite Bewegung.</translation>
  </message>
  <message>
   <source>Weather</source>
   <translation>Wetter</translation>
  </message>
  <message>
   <source>Rain by millimetres an hour: drops near the eye, a veil of the same drops beyond.</source>
   <translation>Regen nach Millimetern je Stunde: Tropfen nahe dem Auge, ein Schleier derselben Tropfen dahinter.</translation>
  </message>
  <message>
   <source>Falling snow by centimetres an hour: flakes near the eye, a veil of the same flakes beyond.</source>
   <translation>Schneefall nach Zentimetern je Stunde: Flocken nahe dem Auge, ein Schleier derselben Flocken dahinter.</translation>
  </message>
  <message>
   <source>Snow cover</source>
   <translation>Schneedecke</translation>
  </message>
  <message>
   <source>Snow that lies on sets: thick in the open, less under trees, none under roofs.</source>
   <translation>Schnee, der auf Sets liegt: dick im Freien, weniger unter Bäumen, keiner unter Dächern.</translation>
  </message>
  <message>
   <source>Leaves, petals or ash that fall, blow and lie; dust or sand in the air.</source>
   <translation>Laub, Blüten oder Asche, die fallen, wehen und liegen; Staub oder Sand in der Luft.</translation>
  </message>
  <message>
   <source>Hailstones by millimetres an hour and their size: they fall, leap where they land, and lie.</source>
   <translation>Hagelkörner nach Millimetern je Stunde und ihrer Größe: sie fallen, springen auf, wo sie landen, und liegen.</translation>
  </message>
  <message>
   <source>Particles</source>
   <translation>Teilchen</translation>
  </message>
  <message>
   <source>Leaves, petals, ash, balls or objects of a set that begin in a box or on faces, fly by weight and drag, bounce, slide and lie. Bake them.</source>
   <translation>Blätter, Blüten, Asche, Kugeln oder Gegenstände eines Sets, die in einem Kasten oder auf Flächen beginnen, nach Gewicht und Luftwiderstand fliegen, springen, rutschen und liegen. Zum Backen.</translation>
  </message>
  <message>
   <source>Lightning</source>
   <translation>Blitz</translation>
  </message>
  <message>
   <source>A strike from cloud to ground, or between any two places: it flashes and flickers, and lights the air and the sets.</source>
   <translation>Ein Einschlag von der Wolke zum Boden oder zwischen zwei beliebigen Orten: er blitzt und flackert und erhellt Luft und Sets.</translation>
  </message>
  <message>
   <source>Wet ground</source>
   <translation>Nasser Boden</translation>
  </message>
  <message>
   <source>Water over sets: darker, glossier, with puddles that mirror. Their own materials stay.</source>
   <translation>Wasser über Sets: dunkler, glänzender, mit spiegelnden Pfützen. Ihre eigenen Materialien bleiben.</translation>
  </message>
  <message>
   <source>Moves air: tracers, and the banks and decks that are carried by it.</source>
   <translation>Bewegt Luft: Leitpunkte und die Bänke und Decken, die er trägt.</translation>
  </message>
  <message>
   <source>Moves the air in a part of space: turbulence, a swirl, a pull or push, a hold. Plumes and tracers follow it.</source>
   <translation>Bewegt die Luft in einem Teil des Raumes: Turbulenz, ein Strudel, ein Zug oder Druck, ein Halten. Fahnen und Leitpunkte folgen ihr.</translation>
  </message>
  <message>
   <source>Points that the winds carry, drawn over the Picture and in the Transect; not in what is delivered.</source>
   <translation>Punkte, die die Winde tragen, über das Bild und in den Schnitt gezeichnet; nicht in dem, was geliefert wird.</translation>
  </message>
  <message>
   <source>Open water</source>
   <translation>Offenes Wasser</translation>
  </message>
  <message>
   <source>Water to the horizon: waves by wind, length of water that it blows over, and depth.</source>
   <translation>Wasser bis zum Horizont: Wellen nach Wind, nach der Strecke, die er über Wasser weht, und nach Tiefe.</translation>
  </message>
  <message>
   <source>Pool</source>
   <translation>Becken</translation>
  </message>
  <message>
   <source>Water within the walls of sets: all that hangs together with its place at its height.</source>
   <translation>Wasser in den Wänden von Sets: alles, was in seiner Höhe mit seinem Ort zusammenhängt.</translation>
  </message>
  <message>
   <source>Buoy</source>
   <translation>Boje</translation>
  </message>
  <message>
   <source>A pin on the water that tells how high it stands there over time, on the Motion page, and what waves it measures.</source>
   <translation>Eine Nadel auf dem Wasser, die sagt, wie hoch es dort über die Zeit steht (auf der Seite Bewegung) und welche Wellen es misst.</translation>
  </message>
  <message>
   <source>Shot camera</source>
   <translation>Kamera der Einstellung</translation>
  </message>
  <message>
   <source>The camera the picture is for.</source>
   <translation>Die Kamera, für die das Bild ist.</translation>
  </message>
  <message>
   <source>Look</source>
   <translation>Look</translation>
  </message>
  <message>
   <source>Finish</source>
   <translation>Finish</translation>
  </message>
  <message>
   <source>How the linear picture is shown; what is delivered as EXR stays linear.</source>
   <translation>Wie das lineare Bild gezeigt wird; was als EXR geliefert wird, bleibt linear.</translation>
  </message>
  <message>
   <source> and </source>
   <translation> und </translation>
  </message>
  <message>
   <source> more</source>
   <translation> weitere</translation>
  </message>
  <message>
   <source>Not baked.</source>
   <translation>Nicht gebacken.</translation>
  </message>
  <message>
   <source>Frame %1 is outside %2 to %3, which is what is baked.</source>
   <translation>Bild %1 liegt außerhalb der gebackenen Bilder %2 bis %3.</translation>
  </message>
  <message>
   <source>Frame %1 is not baked.</source>
   <translation>Bild %1 ist nicht gebacken.</translation>
  </message>
  <message>
   <source>Frame %1: the baked file is damaged (%2); bake it again.</source>
   <translation>Bild %1: die gebackene Datei ist beschädigt (%2); bitte neu backen.</translation>
  </message>
  <message>
   <source>Bake it</source>
   <translation>Backen</translation>
  </message>
  <message>
   <source>The bake is stale: %1.</source>
   <translation>Das Gebackene ist veraltet: %1.</translation>
  </message>
  <message>
   <source>Bake it anew</source>
   <translation>Neu backen</translation>
  </message>
  <message>
   <source>It lies still: there is no wind and no swell.</source>
   <translation>Es liegt still: da ist weder Wind noch Dünung.</translation>
  </message>
  <message>
   <source>Measured over %1 min: significant height %2, mean period %3; the spectrum says %4 and %5. Between %6 and %7 of the level.</source>
   <translation>Über %1 min gemessen: signifikante Höhe %2, mittlere Periode %3; nach dem Spektrum %4 und %5. Zwischen %6 und %7 um den Wasserstand.</translation>
  </message>
  <message>
   <source>One sees %1 through it near the ground; in still air its grains sink at %2.</source>
   <translation>Nahe dem Boden sieht man %1 weit hindurch; in stiller Luft sinken die Körner mit %2.</translation>
  </message>
  <message>
   <source>None are born: their rate is 0.</source>
   <translation>Keine entstehen: ihre Rate ist 0.</translation>
  </message>
  <message>
   <source>Rate 25</source>
   <translation>Rate 25</translation>
  </message>
  <message>
   <source>%1 at this frame.</source>
   <translation>%1 in diesem Bild.</translation>
  </message>
  <message>
   <source>About %1 thousand %2 in sight are drawn, small ones to %3 and large ones to %4; the rest is a veil. Through all of it one sees %5.</source>
   <translation>Rund %1 Tausend %2 im Bild sind einzeln gezeichnet, kleine bis %3 und große bis %4 Entfernung; der Rest ist ein Schleier. Durch alles zusammen sieht man %5 weit.</translation>
  </message>
  <message>
   <source>It lies outside of the plume's box: nothing comes of it there.</source>
   <translation>Sie liegt außerhalb des Quaders der Fahne: dort wird nichts daraus.</translation>
  </message>
  <message>
   <source>Into its box</source>
   <translation>In ihren Quader</translation>
  </message>
  <message>
   <source>Its rate is 0: nothing flows.</source>
   <translation>Ihre Rate ist 0: nichts fließt.</translation>
  </message>
  <message>
   <source>Rate 12 Hz</source>
   <translation>Rate 12 Hz</translation>
  </message>
  <message>
   <source>It gives air as it is around: neither heat nor fuel nor smoke comes of it.</source>
   <translation>Sie gibt Luft, wie sie ringsum ist: weder Hitze noch Brennstoff noch Rauch kommt davon.</translation>
  </message>
  <message>
   <source>Smoke of 1 g/m³ at 400 K</source>
   <translation>Rauch von 1 g/m³ bei 400 K</translation>
  </message>
  <message>
   <source>It feeds from frame %1 on.</source>
   <translation>Speist ab Bild %1.</translation>
  </message>
  <message>
   <source>It stopped feeding at frame %1.</source>
   <translation>Speiste bis Bild %1.</translation>
  </message>
  <message>
   <source>It is cooler than %1, at which the plume's fuel burns: it stays dark unless something else lights it.</source>
   <translation>Kühler als %1, ab wo der Brennstoff der Fahne brennt: bleibt dunkel, wenn nichts anderes sie entzündet.</translation>
  </message>
  <message>
   <source>Temperature %1</source>
   <translation>Temperatur %1</translation>
  </message>
  <message>
   <source>It is smaller than the plume's voxels: %1 across, and they are %2 wide.</source>
   <translation>Kleiner als die Voxel der Fahne: %1 groß, die Voxel sind %2 breit.</translation>
  </message>
  <message>
   <source>Detail as in the shot</source>
   <translation>Feinheit wie in der Einstellung</translation>
  </message>
  <message>
   <source>Voxels of %1</source>
   <translation>Voxel von %1</translation>
  </message>
  <message>
   <source>Stones of %1 fall at %2; an hour of it melts to %3 mm of water.</source>
   <translation>Körner von %1 fallen mit %2; eine Stunde davon schmilzt zu %3 mm Wasser.</translation>
  </message>
  <message>
   <source>%1 (its thunder %2 later)</source>
   <translation>%1 (der Donner %2 später)</translation>
  </message>
  <message>
   <source>; and on</source>
   <translation>; und weiter</translation>
  </message>
  <message>
   <source>Strikes at %1.</source>
   <translation>Schlägt ein bei %1.</translation>
  </message>
  <message>
   <source>Shown on %1, view %2; light is converted to ACES2065-1.</source>
   <translation>Gezeigt auf %1, Ansicht %2; Licht wird nach ACES2065-1 umgerechnet.</translation>
  </message>
  <message>
   <source>Shown on %1, view %2; light counts as %3.</source>
   <translation>Gezeigt auf %1, Ansicht %2; Licht gilt als %3.</translation>
  </message>
  <message>
   <source>Shown on %1, view %2. The configuration does not say how its light relates to other light: ours counts as %3.</source>
   <translation>Gezeigt auf %1, Ansicht %2. Die Konfiguration sagt nicht, wie sich ihr Licht zu anderem verhält: Unseres gilt als %3.</translation>
  </message>
  <message>
   <source>Choose the set that is copied.</source>
   <translation>Das Set wählen, das kopiert wird.</translation>
  </message>
  <message>
   <source>Choose the set on whose surface they stand.</source>
   <translation>Das Set wählen, auf dessen Oberfläche sie stehen.</translation>
  </message>
  <message>
   <source>%1 fly and %2 lie at this frame, 36 and 28 bytes each; in still air one of median size falls at %3. %4</source>
   <translation>%1 fliegen und %2 liegen bei diesem Bild, je 36 und 28 Byte; in stiller Luft fällt eines von mittlerer Größe mit %3. %4</translation>
  </message>
  <message>
   <source>Choose the set that each of them is a copy of.</source>
   <translation>Wähle das Set, von dem jedes eine Kopie ist.</translation>
  </message>
  <message>
   <source>The %1 nearest to the camera are seen as objects.</source>
   <translation>Die %1 nächsten an der Kamera sind als Gegenstände zu sehen.</translation>
  </message>
  <message>
   <source>Each is seen as an object.</source>
   <translation>Jedes ist als Gegenstand zu sehen.</translation>
  </message>
  <message>
   <source>All are drawn; of those far smaller than a pixel one stands for many.</source>
   <translation>Alle werden gezeichnet; von denen, die weit kleiner als ein Bildpunkt sind, steht eines für viele.</translation>
  </message>
  <message>
   <source>Its box holds %1 million voxels of %2; if all of them fill, that is %3 GB of memory and up to %4 MB a frame.</source>
   <translation>Ihr Quader fasst %1 Millionen Voxel von %2; füllen sich alle, sind das %3 GB Speicher und bis zu %4 MB je Bild.</translation>
  </message>
  <message>
   <source>It covers %1 m², %2 deep on average and %3 at most.</source>
   <translation>Bedeckt %1 m², im Mittel %2 und höchstens %3 tief.</translation>
  </message>
  <message>
   <source>It covers %1 m², over no ground.</source>
   <translation>Bedeckt %1 m², aber keinen Boden.</translation>
  </message>
  <message>
   <source>The plume is not baked at this frame.</source>
   <translation>Die Fahne ist bei diesem Bild nicht gebacken.</translation>
  </message>
  <message>
   <source>Reads %1 at frame %2.</source>
   <translation>Misst %1 in Bild %2.</translation>
  </message>
  <message>
   <source>Within 16 m %1 edges drip, together %2 drops a second.</source>
   <translation>Im Umkreis von 16 m tropft es von %1 Kanten, zusammen %2 Tropfen je Sekunde.</translation>
  </message>
  <message>
   <source>drops</source>
   <translation>Tropfen</translation>
  </message>
  <message>
   <source>Its file is not there: %1</source>
   <translation>Die Datei ist nicht da: %1</translation>
  </message>
  <message>
   <source>flakes</source>
   <translation>Flocken</translation>
  </message>
  <message>
   <source>Around the camera it covers %1 m², up to %2 thick and %3 on average, as %4 thousand triangles; farther out it is white where it would lie.</source>
   <translation>Um die Kamera bedeckt sie %1 m², bis zu %2 und im Mittel %3 dick, mit %4 Tausend Dreiecken; weiter draußen ist weiß, wo sie läge.</translation>
  </message>
  <message>
   <source>Spray: %1 drops are in the air, of %2 l.</source>
   <translation>Gischt: %1 Tropfen in der Luft, zusammen %2 l.</translation>
  </message>
  <message>
   <source>Fine spray hangs %1 deep over it; level through it one sees %2.</source>
   <translation>Feine Gischt hängt %1 hoch darüber; waagerecht sieht man %2 weit hindurch.</translation>
  </message>
  <message>
   <source>Clip %1 of %2: %3, %4.</source>
   <translation>Clip %1 von %2: %3, %4.</translation>
  </message>
  <message>
   <source>The file also holds %1 and %2.</source>
   <translation>Die Datei enthält außerdem %1 und %2.</translation>
  </message>
  <message>
   <source>1 lamp</source>
   <translation>1 Lampe</translation>
  </message>
  <message>
   <source>%1 lamps</source>
   <translation>%1 Lampen</translation>
  </message>
  <message>
   <source>1 camera</source>
   <translation>1 Kamera</translation>
  </message>
  <message>
   <source>%1 cameras</source>
   <translation>%1 Kameras</translation>
  </message>
  <message>
   <source>It stands at %1, %2 from north.</source>
   <translation>Steht %1 hoch, %2 von Nord.</translation>
  </message>
  <message>
   <source>The first colour of its ramp is not black: it would glow where there is nothing. It is held at black.</source>
   <translation>Die erste Farbe des Verlaufs ist nicht schwarz: es glühte, wo nichts ist. Sie wird schwarz gehalten.</translation>
  </message>
  <message>
   <source>Black where it is cold</source>
   <translation>Schwarz, wo es kalt ist</translation>
  </message>
  <message>
   <source>Its ramp leaves black right above zero: what is left of cold values will glow. Move the second stop up.</source>
   <translation>Der Verlauf verlässt Schwarz gleich über null: was an kalten Werten bleibt, glüht. Die zweite Stufe höher setzen.</translation>
  </message>
  <message>
   <source>Second colour at 5 %</source>
   <translation>Zweite Farbe bei 5 %</translation>
  </message>
  <message>
   <source>Hottest %1, most smoke %2 g/m³, %3 thousand voxels.</source>
   <translation>Am heißesten %1, dichtester Rauch %2 g/m³, %3 Tausend Voxel.</translation>
  </message>
  <message>
   <source>Nothing glows at this frame: the hottest is %1, and it is dark below %2.</source>
   <translation>In diesem Bild glüht nichts: das Heißeste hat %1, unter %2 ist es dunkel.</translation>
  </message>
  <message>
   <source>Shows frame %1.</source>
   <translation>Zeigt Bild %1.</translation>
  </message>
  <message>
   <source>The camera is under it.</source>
   <translation>Die Kamera ist darunter.</translation>
  </message>
  <message>
   <source>One sees %1 far under it.</source>
   <translation>Darunter sieht man %1 weit.</translation>
  </message>
  <message>
   <source>No wind and no swell: it lies like a mirror.</source>
   <translation>Weder Wind noch Dünung: es liegt wie ein Spiegel.</translation>
  </message>
  <message>
   <source>Waves of %1 (significant height), %2 long at the peak, down to %3, %4 s apart on average. They repeat after %5; %6 folds over, %7 is white.</source>
   <translation>Wellen von %1 (signifikante Höhe), am Gipfel des Spektrums %2 lang, die kürzesten %3, im Mittel alle %4 s. Sie wiederholen sich nach %5; %6 überschlagen sich, %7 sind weiß.</translation>
  </message>
  <message>
   <source>To hold folds under %1 its waves lean together by %2 only.</source>
   <translation>Damit sich weniger als %1 überschlagen, neigen sich die Wellen nur zu %2 zueinander.</translation>
  </message>
  <message>
   <source>The hollows near the camera hold water on %1 of the level ground; what is more than that stands anywhere.</source>
   <translation>Die Mulden nahe der Kamera fassen Wasser auf %1 des ebenen Bodens; was darüber ist, steht irgendwo.</translation>
  </message>
  <message>
   <source>Water stands in hollows on %1 of the level ground near the camera, %2 deep at most; they would hold it on %3.</source>
   <translation>In den Mulden nahe der Kamera steht Wasser auf %1 des ebenen Bodens, höchstens %2 tief; sie fassten es auf %3.</translation>
  </message>
  <message>
   <source>It blows at %1, faster than any storm. Were kilometres an hour meant?</source>
   <translation>Er weht mit %1, schneller als jeder Sturm. Waren Kilometer je Stunde gemeint?</translation>
  </message>
  <message>
   <source>Speed %1</source>
   <translation>Geschwindigkeit %1</translation>
  </message>
  <message>
   <source>Its albedo is 0: it takes light and sends none on.</source>
   <translation>Die Albedo ist 0: es nimmt Licht und gibt keines weiter.</translation>
  </message>
  <message>
   <source>It adds nothing: it lies under the ground. Its top is at %1, the lowest ground in the picture at %2.</source>
   <translation>Trägt nichts bei: es liegt unter dem Boden. Die Oberkante ist bei %1, der tiefste Boden im Bild bei %2.</translation>
  </message>
  <message>
   <source>Top 2 m over the ground</source>
   <translation>Oberkante 2 m über den Boden</translation>
  </message>
  <message>
   <source>It adds nothing: it lies behind the set wherever one looks.</source>
   <translation>Trägt nichts bei: wohin man blickt, liegt es hinter dem Set.</translation>
  </message>
  <message>
   <source>It adds nothing: it lies outside the view, %1 from the camera.</source>
   <translation>Trägt nichts bei: es liegt außer Sicht, %1 von der Kamera.</translation>
  </message>
  <message>
   <source>It adds nothing: density times size gives an optical depth of %1 at most; from %2 on something is seen.</source>
   <translation>Trägt nichts bei: Dichte mal Größe gibt eine optische Dicke von höchstens %1; ab %2 ist etwas zu sehen.</translation>
  </message>
  <message>
   <source>Visibility %1</source>
   <translation>Sichtweite %1</translation>
  </message>
  <message>
   <source>Nothing of the set is seen in it: one sees %1 far, and the nearest of the set is at %2. Were kilometres meant?</source>
   <translation>Vom Set ist darin nichts zu sehen: man sieht %1 weit, und das Nächste vom Set steht bei %2. Waren Kilometer gemeint?</translation>
  </message>
  <message>
   <source>Its noise of %1 is finer than a pixel, which is %2 wide where it is nearest.</source>
   <translation>Sein Rauschen von %1 ist feiner als ein Bildpunkt, der an der nächsten Stelle %2 breit ist.</translation>
  </message>
  <message>
   <source>Noise of eight pixels</source>
   <translation>Rauschen von acht Bildpunkten</translation>
  </message>
  <message>
   <source>It takes %1 of a pass and adds %2 of the picture's light.</source>
   <translation>Braucht %1 eines Durchgangs und trägt %2 zum Licht des Bildes bei.</translation>
  </message>
  <message>
   <source>none of it within %1</source>
   <translation>nichts davon im Umkreis von %1</translation>
  </message>
  <message>
   <source>light from around × %1</source>
   <translation>Licht von ringsum × %1</translation>
  </message>
  <message>
   <source>a veil takes no part in the light</source>
   <translation>ein Schleier nimmt am Licht nicht teil</translation>
  </message>
  <message>
   <source>lights sets × %1, glints × %2</source>
   <translation>erhellt Sets × %1, Glanz × %2</translation>
  </message>
  <message>
   <source>lights air × %1</source>
   <translation>erhellt Luft × %1</translation>
  </message>
  <message>
   <source>Reach is not the same everywhere</source>
   <translation>der Wirkbereich ist nicht überall gleich</translation>
  </message>
  <message>
   <source>Not as in nature: %1.</source>
   <translation>Nicht wie in der Natur: %1.</translation>
  </message>
  <message>
   <source>It gives no light: its power is 0.</source>
   <translation>Sie gibt kein Licht: ihre Leistung ist 0.</translation>
  </message>
  <message>
   <source>It adds nothing: no surface and no air in the picture gets its light.</source>
   <translation>Trägt nichts bei: keine Fläche und keine Luft im Bild bekommt ihr Licht.</translation>
  </message>
  <message>
   <source>It adds nothing: by Reach and its strengths it lights neither set nor air.</source>
   <translation>Trägt nichts bei: nach Wirkbereich und Stärken erhellt sie weder Set noch Luft.</translation>
  </message>
  <message>
   <source>The sun stands %1° under the horizon and lights nothing.</source>
   <translation>Die Sonne steht %1° unter dem Horizont und erhellt nichts.</translation>
  </message>
  <message>
   <source>Sun at 6°</source>
   <translation>Sonne bei 6°</translation>
  </message>
  <message>
   <source>%1 of its waves fold over themselves.</source>
   <translation>%1 der Wellen überschlagen sich.</translation>
  </message>
  <message>
   <source>Hold folds</source>
   <translation>Überschläge halten</translation>
  </message>
  <message>
   <source>It is %1 long, which is %2 for a set: its file may be in another unit.</source>
   <translation>%1 lang, das ist %2 für ein Set: vielleicht ist die Datei in einer anderen Einheit.</translation>
  </message>
  <message>
   <source>small</source>
   <translation>klein</translation>
  </message>
  <message>
   <source>large</source>
   <translation>groß</translation>
  </message>
  <message>
   <source>Scale × %1</source>
   <translation>Maßstab × %1</translation>
  </message>
  <message>
   <source>Density 100 %</source>
   <translation>Dichte 100 %</translation>
  </message>
  <message>
   <source>%1 of the picture is as bright as can be shown.</source>
   <translation>%1 des Bildes ist so hell, wie es sich zeigen lässt.</translation>
  </message>
  <message>
   <source>Exposure one stop less</source>
   <translation>Belichtung eine Blende weniger</translation>
  </message>
  <message>
   <source>foreground</source>
   <translation>Vordergrund</translation>
  </message>
  <message>
   <source>background</source>
   <translation>Hintergrund</translation>
  </message>
  <message>
   <source>The %1 and the %2 stand %3 stops apart: they read as one plane.</source>
   <translation>%1 und %2 liegen nur %3 Blenden auseinander: sie lesen sich als ein Grund.</translation>
  </message>
  <message>
   <source>After rain</source>
   <translation>Nach dem Regen</translation>
  </message>
  <message>
   <source>Washed air of 30 km with tatters of mist up to 8 m in the hollows.</source>
   <translation>Gewaschene Luft von 30 km, in den Senken Nebelfetzen bis 8 m hoch.</translation>
  </message>
  <message>
   <source>Washed air</source>
   <translation>Gewaschene Luft</translation>
  </message>
  <message>
   <source>Tatters</source>
   <translation>Fetzen</translation>
  </message>
  <message>
   <source>Blue distance</source>
   <translation>Blaue Ferne</translation>
  </message>
  <message>
   <source>Washed air after a front: 35 km of visibility, most of it clean air, so that far hills go blue.</source>
   <translation>Gewaschene Luft nach einer Front: 35 km Sicht, das meiste davon reine Luft, sodass ferne Hügel blau werden.</translation>
  </message>
  <message>
   <source>City smog</source>
   <translation>Stadtsmog</translation>
  </message>
  <message>
   <source>Flat grey air of 1.4 km under 90 m, absorbing.</source>
   <translation>Flache graue Luft von 1,4 km unter 90 m, absorbierend.</translation>
  </message>
  <message>
   <source>Smog</source>
   <translation>Smog</translation>
  </message>
  <message>
   <source>Dry summer haze</source>
   <translation>Trockener Sommerdunst</translation>
  </message>
  <message>
   <source>Dust and warmth: 12 km of visibility, thinning over 1.2 km, a little absorbing.</source>
   <translation>Staub und Wärme: 12 km Sicht, über 1,2 km dünner werdend, ein wenig absorbierend.</translation>
  </message>
  <message>
   <source>Summer haze</source>
   <translation>Sommerdunst</translation>
  </message>
  <message>
   <source>Dusty hall</source>
   <translation>Staubige Halle</translation>
  </message>
  <message>
   <source>Still dust in a room: 90 m of visibility under 14 m, for beams to show.</source>
   <translation>Stehender Staub in einem Raum: 90 m Sicht unter 14 m, damit Lichtbündel sichtbar werden.</translation>
  </message>
  <message>
   <source>Hall dust</source>
   <translation>Hallenstaub</translation>
  </message>
  <message>
   <source>Evening flocks</source>
   <translation>Abendflöckchen</translation>
  </message>
  <message>
   <source>A field of small clouds in rows at 3.6 km, that thins out toward one side; air of 18 km.</source>
   <translation>Ein Feld kleiner Wolken in Reihen auf 3,6 km, das nach einer Seite ausdünnt; Luft von 18 km.</translation>
  </message>
  <message>
   <source>Altocumulus</source>
   <translation>Altocumulus</translation>
  </message>
  <message>
   <source>Evening haze</source>
   <translation>Abenddunst</translation>
  </message>
  <message>
   <source>Fair-weather cloud</source>
   <translation>Schönwetterwolken</translation>
  </message>
  <message>
   <source>Heaped clouds with flat bases at 1.3 km over two fifths of the sky, air of 35 km.</source>
   <translation>Haufenwolken mit flachen Unterseiten auf 1,3 km über zwei Fünfteln des Himmels, Luft von 35 km.</translation>
  </message>
  <message>
   <source>Cumulus</source>
   <translation>Cumulus</translation>
  </message>
  <message>
   <source>Clear air</source>
   <translation>Klare Luft</translation>
  </message>
  <message>
   <source>Low broken cloud</source>
   <translation>Tiefe aufgerissene Wolken</translation>
  </message>
  <message>
   <source>Heaped cloud from 900 m over half of the sky, its shadow on the ground; 20 km of visibility under it, a third of it clean air.</source>
   <translation>Haufenwolken ab 900 m über dem halben Himmel, ihr Schatten auf dem Boden; darunter 20 km Sicht, ein Drittel davon reine Luft.</translation>
  </message>
  <message>
   <source>Air under the cloud</source>
   <translation>Luft unter den Wolken</translation>
  </message>
  <message>
   <source>Broken cloud</source>
   <translation>Aufgerissene Wolken</translation>
  </message>
  <message>
   <source>Mist in the hollows</source>
   <translation>Nebel in den Senken</translation>
  </message>
  <message>
   <source>Mist of 70 m visibility that lies on water and in dips and leaves the paths free; haze of 6 km over it.</source>
   <translation>Nebel von 70 m Sicht, der auf Wasser und in Mulden liegt und die Wege frei lässt; darüber Dunst von 6 km.</translation>
  </message>
  <message>
   <source>Morning air</source>
   <translation>Morgenluft</translation>
  </message>
  <message>
   <source>Quick dusk veil</source>
   <translation>Schneller Abendschleier</translation>
  </message>
  <message>
   <source>The cheap one: a veil from 40 m to 900 m with an uneven horizon, no light in it; for blocking out, and over plates.</source>
   <translation>Der günstige: ein Schleier von 40 m bis 900 m mit unebenem Horizont, ohne Licht darin; zum Entwerfen und über Fotografien.</translation>
  </message>
  <message>
   <source>Dusk veil</source>
   <translation>Abendschleier</translation>
  </message>
  <message>
   <source>Rain cloud</source>
   <translation>Regenwolke</translation>
  </message>
  <message>
   <source>A grey deck from 800 m with a ragged base and a few gaps; curtains of rain hang 600 m under it.</source>
   <translation>Eine graue Decke ab 800 m mit zerrissener Unterseite und einigen Lücken; Regenvorhänge hängen 600 m darunter.</translation>
  </message>
  <message>
   <source>Nimbostratus</source>
   <translation>Nimbostratus</translation>
  </message>
  <message>
   <source>Damp haze</source>
   <translation>Feuchter Dunst</translation>
  </message>
  <message>
   <source>River mist</source>
   <translation>Flussnebel</translation>
  </message>
  <message>
   <source>Mist 3 m deep on the water, 60 m of visibility in it, thin haze of 3 km over it.</source>
   <translation>Nebel 3 m hoch auf dem Wasser, darin 60 m Sicht, darüber dünner Dunst von 3 km.</translation>
  </message>
  <message>
   <source>River haze</source>
   <translation>Flussdunst</translation>
  </message>
  <message>
   <source>Sea fret</source>
   <translation>Seenebel</translation>
  </message>
  <message>
   <source>Cold fog from the water: 180 m of visibility, torn, drifting at 4 m/s under a top of 60 m.</source>
   <translation>Kalter Nebel vom Wasser: 180 m Sicht, zerrissen, mit 4 m/s treibend, bis 60 m hoch.</translation>
  </message>
  <message>
   <source>Sea of fog</source>
   <translation>Nebelmeer</translation>
  </message>
  <message>
   <source>Fog of 70 m visibility that fills a valley to 18 m, its surface in waves 110 m apart.</source>
   <translation>Nebel von 70 m Sicht, der ein Tal bis 18 m füllt, seine Oberfläche in Wellen von 110 m Abstand.</translation>
  </message>
  <message>
   <source>Smoke-stained dusk</source>
   <translation>Rauchiger Abend</translation>
  </message>
  <message>
   <source>Brown haze of 2.2 km from fires far off, a veil of smoke lying at 10 to 30 m.</source>
   <translation>Brauner Dunst von 2,2 km von fernen Feuern, ein Rauchschleier liegt auf 10 bis 30 m.</translation>
  </message>
  <message>
   <source>Smoky air</source>
   <translation>Rauchige Luft</translation>
  </message>
  <message>
   <source>Lying smoke</source>
   <translation>Liegender Rauch</translation>
  </message>
  <message>
   <source>Steaming bog</source>
   <translation>Dampfendes Moor</translation>
  </message>
  <message>
   <source>Wisps 1.2 m high with 25 m of visibility that boil in place.</source>
   <translation>Schwaden von 1,2 m Höhe mit 25 m Sicht, die auf der Stelle wallen.</translation>
  </message>
  <message>
   <source>Bog steam</source>
   <translation>Moordampf</translation>
  </message>
  <message>
   <source>Valley inversion</source>
   <translation>Inversion im Tal</translation>
  </message>
  <message>
   <source>Fog of 130 m visibility up to 19 m, clear air of 14 km over it, mist in the hollows, thin cloud aloft.</source>
   <translation>Nebel von 130 m Sicht bis 19 m Höhe, darüber klare Luft von 14 km, Nebel in den Senken, hoch oben dünne Wolken.</translation>
  </message>
  <message>
   <source>Air over the inversion</source>
   <translation>Luft über der Inversion</translation>
  </message>
  <message>
   <source>Fog under the inversion</source>
   <translation>Nebel unter der Inversion</translation>
  </message>
  <message>
   <source>Cloud aloft</source>
   <translation>Hohe Wolken</translation>
  </message>
  <message>
   <source>Winter ice fog</source>
   <translation>Eisnebel im Winter</translation>
  </message>
  <message>
   <source>Frozen fog 9 m deep with 220 m of visibility, strongly forward, in air of 8 km.</source>
   <translation>Gefrorener Nebel, 9 m hoch, mit 220 m Sicht, stark nach vorn streuend, in Luft von 8 km.</translation>
  </message>
  <message>
   <source>Frosty air</source>
   <translation>Frostluft</translation>
  </message>
  <message>
   <source>Ice fog</source>
   <translation>Eisnebel</translation>
  </message>
  <message>
   <source>Brazier</source>
   <translation>Feuerkorb</translation>
  </message>
  <message>
   <source>A basket of coals: flames half a metre high, a little smoke. Bake it to see it.</source>
   <translation>Ein Korb voll Glut: Flammen einen halben Meter hoch, etwas Rauch. Backen, um es zu sehen.</translation>
  </message>
  <message>
   <source>Coals</source>
   <translation>Kohlen</translation>
  </message>
  <message>
   <source>Burning beam</source>
   <translation>Brennender Balken</translation>
  </message>
  <message>
   <source>Two metres of a beam that lies and burns along its top. Bake it to see it.</source>
   <translation>Zwei Meter eines liegenden Balkens, der oben entlang brennt. Backen, um es zu sehen.</translation>
  </message>
  <message>
   <source>Beam</source>
   <translation>Balken</translation>
  </message>
  <message>
   <source>Camp fire</source>
   <translation>Lagerfeuer</translation>
  </message>
  <message>
   <source>Flames a metre high over the ground and the smoke of damp wood. Bake it to see it.</source>
   <translation>Flammen einen Meter hoch über dem Boden und der Rauch feuchten Holzes. Backen, um es zu sehen.</translation>
  </message>
  <message>
   <source>Logs</source>
   <translation>Scheite</translation>
  </message>
  <message>
   <source>Candle</source>
   <translation>Kerze</translation>
  </message>
  <message>
   <source>A flame three centimetres tall that stands still. Bake it to see it.</source>
   <translation>Eine Flamme von drei Zentimetern, die still steht. Backen, um es zu sehen.</translation>
  </message>
  <message>
   <source>Wick</source>
   <translation>Docht</translation>
  </message>
  <message>
   <source>Chimney smoke</source>
   <translation>Schornsteinrauch</translation>
  </message>
  <message>
   <source>Wood smoke from a chimney of 30 cm: bluish, thinning as it drifts. Bake it to see it.</source>
   <translation>Holzrauch aus einem Schornstein von 30 cm: bläulich, im Treiben dünner werdend. Backen, um es zu sehen.</translation>
  </message>
  <message>
   <source>Flue</source>
   <translation>Abzug</translation>
  </message>
  <message>
   <source>Coloured flare</source>
   <translation>Farbige Fackel</translation>
  </message>
  <message>
   <source>A hand flare: white-hot at its mouth, red smoke that pours away. Bake it to see it.</source>
   <translation>Eine Handfackel: weißglühend an der Mündung, roter Rauch quillt davon. Backen, um es zu sehen.</translation>
  </message>
  <message>
   <source>Mouth</source>
   <translation>Mündung</translation>
  </message>
  <message>
   <source>Damp leaves</source>
   <translation>Feuchtes Laub</translation>
  </message>
  <message>
   <source>A smouldering heap: thick pale smoke that hardly rises. Bake it to see it.</source>
   <translation>Ein schwelender Haufen: dicker blasser Rauch, der kaum steigt. Backen, um es zu sehen.</translation>
  </message>
  <message>
   <source>Heap</source>
   <translation>Haufen</translation>
  </message>
  <message>
   <source>Dust burst</source>
   <translation>Staubausbruch</translation>
  </message>
  <message>
   <source>Something strikes the ground half a second in: dust shoots out and hangs. Bake it to see it.</source>
   <translation>Nach einer halben Sekunde schlägt etwas ein: Staub schießt heraus und bleibt hängen. Backen, um es zu sehen.</translation>
  </message>
  <message>
   <source>Blow</source>
   <translation>Einschlag</translation>
  </message>
  <message>
   <source>Extinguished match</source>
   <translation>Gelöschtes Streichholz</translation>
  </message>
  <message>
   <source>A thread of smoke that rises straight, then breaks into curls. Bake it to see it.</source>
   <translation>Ein Rauchfaden, der gerade steigt und dann in Kringel zerfällt. Backen, um es zu sehen.</translation>
  </message>
  <message>
   <source>Head</source>
   <translation>Kopf</translation>
  </message>
  <message>
   <source>Ground smoke</source>
   <translation>Bodenrauch</translation>
  </message>
  <message>
   <source>Cold smoke that pours out low and spreads over the ground. Bake it to see it.</source>
   <translation>Kalter Rauch, der niedrig hervorquillt und sich über den Boden breitet. Backen, um es zu sehen.</translation>
  </message>
  <message>
   <source>Kettle</source>
   <translation>Kessel</translation>
  </message>
  <message>
   <source>Steam from a spout: clear at its mouth, white, gone within a hand's breadth. Bake it to see it.</source>
   <translation>Dampf aus einer Tülle: klar an der Mündung, weiß, nach einer Handbreit fort. Backen, um es zu sehen.</translation>
  </message>
  <message>
   <source>Spout</source>
   <translation>Tülle</translation>
  </message>
  <message>
   <source>Muzzle flash</source>
   <translation>Mündungsfeuer</translation>
  </message>
  <message>
   <source>A shot half a second in: a tongue of flame for a frame, smoke that drifts off. Bake it to see it.</source>
   <translation>Ein Schuss nach einer halben Sekunde: für ein Bild eine Flammenzunge, dann treibt Rauch davon. Backen, um es zu sehen.</translation>
  </message>
  <message>
   <source>Muzzle</source>
   <translation>Laufmündung</translation>
  </message>
  <message>
   <source>Oil drum burst</source>
   <translation>Berstendes Ölfass</translation>
  </message>
  <message>
   <source>A drum bursts half a second in: a ball of fire, then black smoke. Bake it to see it.</source>
   <translation>Ein Fass birst nach einer halben Sekunde: ein Feuerball, dann schwarzer Rauch. Backen, um es zu sehen.</translation>
  </message>
  <message>
   <source>Burst</source>
   <translation>Ausbruch</translation>
  </message>
  <message>
   <source>Spilt oil</source>
   <translation>Ausgelaufenes Öl</translation>
  </message>
  <message>
   <source>Steam vent</source>
   <translation>Dampfauslass</translation>
  </message>
  <message>
   <source>White steam that rises a few metres and is gone in seconds. Bake it to see it.</source>
   <translation>Weißer Dampf, der einige Meter steigt und in Sekunden fort ist. Backen, um es zu sehen.</translation>
  </message>
  <message>
   <source>Steam</source>
   <translation>Dampf</translation>
  </message>
  <message>
   <source>Vent</source>
   <translation>Auslass</translation>
  </message>
  <message>
   <source>Torch</source>
   <translation>Fackel</translation>
  </message>
  <message>
   <source>A burning head on a pole at a man's height; flames that tear off in the wind. Bake it to see it.</source>
   <translation>Ein brennender Kopf auf einer Stange in Mannshöhe; Flammen, die im Wind abreißen. Backen, um es zu sehen.</translation>
  </message>
  <message>
   <source>Wall of flame</source>
   <translation>Flammenwand</translation>
  </message>
  <message>
   <source>Six metres of flames, two metres high. Bake it to see it.</source>
   <translation>Sechs Meter Flammen, zwei Meter hoch. Backen, um es zu sehen.</translation>
  </message>
  <message>
   <source>Line</source>
   <translation>Linie</translation>
  </message>
  <message>
   <source>Coloured smoke</source>
   <translation>Farbiger Rauch</translation>
  </message>
  <message>
   <source>Signal smoke 7 m high, madder at the foot and sulphur above; 0.25 m let a twentieth through.</source>
   <translation>Signalrauch, 7 m hoch, am Fuß krapprot, oben schwefelgelb; 0,25 m lassen ein Zwanzigstel durch.</translation>
  </message>
  <message>
   <source>Madder to sulphur</source>
   <translation>Krapprot bis Schwefelgelb</translation>
  </message>
  <message>
   <source>A white cumulus 270 m wide, 85 m up and 380 m away; 5 m of it let a twentieth through.</source>
   <translation>Ein weißer Cumulus, 270 m breit, 85 m hoch oben und 380 m entfernt; 5 m davon lassen ein Zwanzigstel durch.</translation>
  </message>
  <message>
   <source>Dust plume</source>
   <translation>Staubfahne</translation>
  </message>
  <message>
   <source>Ochre dust behind something fast, 28 m long; 5 m let a twentieth through.</source>
   <translation>Ockerfarbener Staub hinter etwas Schnellem, 28 m lang; 5 m lassen ein Zwanzigstel durch.</translation>
  </message>
  <message>
   <source>Embers glow</source>
   <translation>Glutbett</translation>
  </message>
  <message>
   <source>A bed of embers 1.2 m across under a breath of smoke; its light reaches a few metres.</source>
   <translation>Ein Glutbett von 1,2 m unter einem Hauch von Rauch; sein Licht reicht einige Meter.</translation>
  </message>
  <message>
   <source>Fireball</source>
   <translation>Feuerball</translation>
  </message>
  <message>
   <source>A rising fireball 9 m across: hot cracks in a crust of soot, lighting what is around; 1.2 m let a twentieth through.</source>
   <translation>Ein steigender Feuerball von 9 m: heiße Risse in einer Rußkruste, die das Umliegende beleuchten; 1,2 m lassen ein Zwanzigstel durch.</translation>
  </message>
  <message>
   <source>Oil smoke</source>
   <translation>Ölrauch</translation>
  </message>
  <message>
   <source>Black smoke of burning oil, 30 m high, its foot glowing; 0.35 m let a twentieth through.</source>
   <translation>Schwarzer Rauch brennenden Öls, 30 m hoch, mit glühendem Fuß; 0,35 m lassen ein Zwanzigstel durch.</translation>
  </message>
  <message>
   <source>Stack steam</source>
   <translation>Schlotdampf</translation>
  </message>
  <message>
   <source>White steam from a stack, 14 m high, thinning fast; 0.7 m let a twentieth through at its foot.</source>
   <translation>Weißer Dampf aus einem Schlot, 14 m hoch, schnell dünner werdend; am Fuß lassen 0,7 m ein Zwanzigstel durch.</translation>
  </message>
  <message>
   <source>Wood smoke</source>
   <translation>Holzrauch</translation>
  </message>
  <message>
   <source>Thin blue-grey smoke of a wood fire, 12 m high; 1.6 m let a twentieth through.</source>
   <translation>Dünner blaugrauer Rauch eines Holzfeuers, 12 m hoch; 1,6 m lassen ein Zwanzigstel durch.</translation>
  </message>
  <message>
   <source>Lake in a breeze</source>
   <translation>See in der Brise</translation>
  </message>
  <message>
   <source>Short waves of 5 m/s over 3 km of lake, a thin mist of 1.5 km on it.</source>
   <translation>Kurze Wellen von 5 m/s über 3 km See, darauf dünner Nebel von 1,5 km.</translation>
  </message>
  <message>
   <source>Lake</source>
   <translation>See</translation>
  </message>
  <message>
   <source>Lake haze</source>
   <translation>Dunst am See</translation>
  </message>
  <message>
   <source>Mist on the lake</source>
   <translation>Nebel auf dem See</translation>
  </message>
  <message>
   <source>Long swell, no wind</source>
   <translation>Lange Dünung, kein Wind</translation>
  </message>
  <message>
   <source>Swell of 180 m from a storm far away, 2 m high, smooth under haze of 9 km.</source>
   <translation>Dünung von 180 m aus einem fernen Sturm, 2 m hoch, glatt unter Dunst von 9 km.</translation>
  </message>
  <message>
   <source>Long swell</source>
   <translation>Lange Dünung</translation>
  </message>
  <message>
   <source>Open sea</source>
   <translation>Offenes Meer</translation>
  </message>
  <message>
   <source>A fully grown sea in 11 m/s of wind under haze of 12 km: waves 2.6 m high, some white.</source>
   <translation>Voll entwickelter Seegang bei 11 m/s Wind unter Dunst von 12 km: Wellen 2,6 m hoch, einige weiß.</translation>
  </message>
  <message>
   <source>Sea haze</source>
   <translation>Seedunst</translation>
  </message>
  <message>
   <source>Still pond</source>
   <translation>Stiller Teich</translation>
  </message>
  <message>
   <source>Hardly a breath, 1.2 m/s over 80 m: the water mirrors, mist of 220 m lies on it.</source>
   <translation>Kaum ein Hauch, 1,2 m/s über 80 m: das Wasser spiegelt, Nebel von 220 m liegt darauf.</translation>
  </message>
  <message>
   <source>Pond</source>
   <translation>Teich</translation>
  </message>
  <message>
   <source>Mist on the pond</source>
   <translation>Nebel auf dem Teich</translation>
  </message>
  <message>
   <source>Ash fall</source>
   <translation>Ascheregen</translation>
  </message>
  <message>
   <source>Grey scraps sink through smoky air; the ground is grey with them.</source>
   <translation>Graue Flocken sinken durch rauchige Luft; der Boden ist grau davon.</translation>
  </message>
  <message>
   <source>Ash</source>
   <translation>Asche</translation>
  </message>
  <message>
   <source>Burnt air</source>
   <translation>Verbrannte Luft</translation>
  </message>
  <message>
   <source>Autumn gusts</source>
   <translation>Herbstböen</translation>
  </message>
  <message>
   <source>Leaves drive over the ground at 5 m/s; a third of it lies under them.</source>
   <translation>Blätter treiben mit 5 m/s über den Boden; ein Drittel davon liegt unter ihnen.</translation>
  </message>
  <message>
   <source>Leaves</source>
   <translation>Blätter</translation>
  </message>
  <message>
   <source>Autumn haze</source>
   <translation>Herbstdunst</translation>
  </message>
  <message>
   <source>Blizzard</source>
   <translation>Schneesturm</translation>
  </message>
  <message>
   <source>5 cm an hour at 14 m/s: flakes drive past, the distance is white, snow lies where the wind lets it.</source>
   <translation>5 cm in der Stunde bei 14 m/s: Flocken jagen vorbei, die Ferne ist weiß, Schnee liegt, wo der Wind ihn lässt.</translation>
  </message>
  <message>
   <source>Driving snow</source>
   <translation>Treibender Schnee</translation>
  </message>
  <message>
   <source>Blown over</source>
   <translation>Darüber geweht</translation>
  </message>
  <message>
   <source>Whirled up</source>
   <translation>Aufgewirbelt</translation>
  </message>
  <message>
   <source>Cloudburst</source>
   <translation>Wolkenbruch</translation>
  </message>
  <message>
   <source>70 mm an hour slant in the wind; the distance goes under in it, the ground stands under water.</source>
   <translation>70 mm in der Stunde, schräg im Wind; die Ferne geht darin unter, der Boden steht unter Wasser.</translation>
  </message>
  <message>
   <source>Spray</source>
   <translation>Gischt</translation>
  </message>
  <message>
   <source>Ground under water</source>
   <translation>Boden unter Wasser</translation>
  </message>
  <message>
   <source>Drizzle</source>
   <translation>Nieselregen</translation>
  </message>
  <message>
   <source>Fine rain of 0.6 mm an hour in mist of 1.2 km; everything is damp.</source>
   <translation>Feiner Regen von 0,6 mm in der Stunde in Nebel von 1,2 km; alles ist feucht.</translation>
  </message>
  <message>
   <source>Mist of the drizzle</source>
   <translation>Nebel des Nieselregens</translation>
  </message>
  <message>
   <source>Damp ground</source>
   <translation>Feuchter Boden</translation>
  </message>
  <message>
   <source>Dry cold snow</source>
   <translation>Trockener kalter Schnee</translation>
  </message>
  <message>
   <source>A fine dry fall of 1 cm an hour; since the morning it has laid 9 cm over the sets.</source>
   <translation>Feiner trockener Schneefall von 1 cm in der Stunde; seit dem Morgen liegen 9 cm auf den Sets.</translation>
  </message>
  <message>
   <source>Dry snow</source>
   <translation>Trockener Schnee</translation>
  </message>
  <message>
   <source>Lying snow</source>
   <translation>Liegender Schnee</translation>
  </message>
  <message>
   <source>Cold haze</source>
   <translation>Kalter Dunst</translation>
  </message>
  <message>
   <source>Dust haze</source>
   <translation>Staubdunst</translation>
  </message>
  <message>
   <source>A dry day: a hundredth of a gram of dust in a cubic metre, up to some hundred metres.</source>
   <translation>Ein trockener Tag: ein hundertstel Gramm Staub im Kubikmeter, bis in einige hundert Meter Höhe.</translation>
  </message>
  <message>
   <source>Fine dust</source>
   <translation>Feiner Staub</translation>
  </message>
  <message>
   <source>Hail shower</source>
   <translation>Hagelschauer</translation>
  </message>
  <message>
   <source>Stones of 14 mm, 60 mm of ice an hour; they leap from the ground and lie white.</source>
   <translation>Körner von 14 mm, 60 mm Eis in der Stunde; sie springen vom Boden und liegen weiß.</translation>
  </message>
  <message>
   <source>Rain with it</source>
   <translation>Regen dabei</translation>
  </message>
  <message>
   <source>Shower haze</source>
   <translation>Schauerdunst</translation>
  </message>
  <message>
   <source>Sand storm</source>
   <translation>Sandsturm</translation>
  </message>
  <message>
   <source>6 g of sand in a cubic metre near the ground, half a gram of dust over it to 240 m: one sees some forty metres.</source>
   <translation>6 g Sand im Kubikmeter am Boden, darüber ein halbes Gramm Staub bis 240 m: man sieht etwa vierzig Meter weit.</translation>
  </message>
  <message>
   <source>Sand</source>
   <translation>Sand</translation>
  </message>
  <message>
   <source>Dust</source>
   <translation>Staub</translation>
  </message>
  <message>
   <source>Spring petals</source>
   <translation>Frühlingsblüten</translation>
  </message>
  <message>
   <source>A few petals come down on every square metre in a second, and lie in drifts.</source>
   <translation>Einige Blütenblätter fallen je Sekunde auf jeden Quadratmeter und liegen in Wehen.</translation>
  </message>
  <message>
   <source>Petals</source>
   <translation>Blütenblätter</translation>
  </message>
  <message>
   <source>Steady rain</source>
   <translation>Dauerregen</translation>
  </message>
  <message>
   <source>6 mm an hour, a breeze, wet ground with puddles; one sees some three kilometres.</source>
   <translation>6 mm in der Stunde, eine Brise, nasser Boden mit Pfützen; man sieht etwa drei Kilometer weit.</translation>
  </message>
  <message>
   <source>Rain haze</source>
   <translation>Regendunst</translation>
  </message>
  <message>
   <source>Thunderstorm</source>
   <translation>Gewitter</translation>
  </message>
  <message>
   <source>40 mm an hour before a strike over the distance; others follow by chance, each with its own thunder.</source>
   <translation>40 mm in der Stunde vor einem Blitz in der Ferne; andere folgen zufällig, jeder mit seinem Donner.</translation>
  </message>
  <message>
   <source>Downpour</source>
   <translation>Guss</translation>
  </message>
  <message>
   <source>Soaked ground</source>
   <translation>Durchnässter Boden</translation>
  </message>
  <message>
   <source>Wet snow</source>
   <translation>Nassschnee</translation>
  </message>
  <message>
   <source>Large wet flakes at the melting point; what lies is thin, with gaps, on wet ground.</source>
   <translation>Große nasse Flocken am Schmelzpunkt; was liegt, ist dünn, lückig und auf nassem Boden.</translation>
  </message>
  <message>
   <source>Wet flakes</source>
   <translation>Nasse Flocken</translation>
  </message>
  <message>
   <source>Slush</source>
   <translation>Matsch</translation>
  </message>
  <message>
   <source>Wet under it</source>
   <translation>Nässe darunter</translation>
  </message>
  <message>
   <source>off</source>
   <translation>aus</translation>
  </message>
 </context>
 <context>
  <name>errors</name>
  <message>
   <source>Writing</source>
   <translation>Beim Schreiben von</translation>
  </message>
  <message>
   <source>the folder does not exist</source>
   <translation>den Ordner gibt es nicht</translation>
  </message>
  <message>
   <source>Choose another place.</source>
   <translation>Einen anderen Ort wählen.</translation>
  </message>
  <message>
   <source>it is a folder</source>
   <translation>es ist ein Ordner</translation>
  </message>
  <message>
   <source>Choose a file name.</source>
   <translation>Einen Dateinamen wählen.</translation>
  </message>
  <message>
   <source>What was there before is untouched.</source>
   <translation>Was vorher da war, ist unberührt.</translation>
  </message>
  <message>
   <source>What was there before is untouched; check free space and permissions.</source>
   <translation>Was vorher da war, ist unberührt; freien Platz und Rechte prüfen.</translation>
  </message>
  <message>
   <source>it is a folder, not a file</source>
   <translation>es ist ein Ordner, keine Datei</translation>
  </message>
  <message>
   <source>it could not be read to the end</source>
   <translation>es ließ sich nicht bis zum Ende lesen</translation>
  </message>
  <message>
   <source>Reading a baked frame</source>
   <translation>Beim Lesen eines gebackenen Bildes</translation>
  </message>
  <message>
   <source>it is not a baked frame</source>
   <translation>es ist kein gebackenes Bild</translation>
  </message>
  <message>
   <source>it is torn</source>
   <translation>es ist unvollständig</translation>
  </message>
  <message>
   <source>its head is damaged</source>
   <translation>sein Kopf ist beschädigt</translation>
  </message>
  <message>
   <source>%1 has changed since</source>
   <translation>%1 hat sich seither geändert</translation>
  </message>
  <message>
   <source>%1 have changed since</source>
   <translation>%1 haben sich seither geändert</translation>
  </message>
  <message>
   <source>%1 has come since</source>
   <translation>%1 ist seither dazugekommen</translation>
  </message>
  <message>
   <source>%1 have come since</source>
   <translation>%1 sind seither dazugekommen</translation>
  </message>
  <message>
   <source>%1 is gone</source>
   <translation>%1 ist fort</translation>
  </message>
  <message>
   <source>%1 are gone</source>
   <translation>%1 sind fort</translation>
  </message>
  <message>
   <source>Bake it again.</source>
   <translation>Noch einmal backen.</translation>
  </message>
  <message>
   <source>its content is damaged</source>
   <translation>sein Inhalt ist beschädigt</translation>
  </message>
  <message>
   <source>Baking</source>
   <translation>Beim Backen von</translation>
  </message>
  <message>
   <source>the frame store is full: frame %1 would make it larger than %2 MB</source>
   <translation>der Bildspeicher ist voll: mit Bild %1 wäre er größer als %2 MB</translation>
  </message>
  <message>
   <source>Purge what is not needed any more, or allow more.</source>
   <translation>Entfernen, was nicht mehr gebraucht wird, oder mehr erlauben.</translation>
  </message>
  <message>
   <source>Check free space and permissions.</source>
   <translation>Freien Platz und Rechte prüfen.</translation>
  </message>
  <message>
   <source>Frames baked before are kept; check free space and permissions, then go on.</source>
   <translation>Zuvor gebackene Bilder bleiben; freien Platz und Rechte prüfen, dann weitermachen.</translation>
  </message>
  <message>
   <source>its brackets are nested deeper than %1 levels; it is damaged</source>
   <translation>seine Klammern sind tiefer als %1 Stufen geschachtelt; es ist beschädigt</translation>
  </message>
  <message>
   <source>Nothing was replaced.</source>
   <translation>Nichts wurde ersetzt.</translation>
  </message>
  <message>
   <source>the frame rate</source>
   <translation>die Bildrate</translation>
  </message>
  <message>
   <source>the first frame</source>
   <translation>das erste Bild</translation>
  </message>
  <message>
   <source>the pre-roll</source>
   <translation>der Vorlauf</translation>
  </message>
  <message>
   <source>the loop</source>
   <translation>die Schleife</translation>
  </message>
  <message>
   <source>the kind of %1</source>
   <translation>die Art von %1</translation>
  </message>
  <message>
   <source>the bake of %1</source>
   <translation>das Gebackene von %1</translation>
  </message>
  <message>
   <source>there is no such element in the project</source>
   <translation>ein solches Element gibt es im Projekt nicht</translation>
  </message>
  <message>
   <source>a %1 is not simulated</source>
   <translation>%1 wird nicht simuliert</translation>
  </message>
  <message>
   <source>it is muted, or another of its family is soloed</source>
   <translation>es ist stumm, oder ein anderes seiner Familie steht allein</translation>
  </message>
  <message>
   <source>Bracketing</source>
   <translation>In der Reihe zu</translation>
  </message>
  <message>
   <source>there is no element '%1'</source>
   <translation>ein Element '%1' gibt es nicht</translation>
  </message>
  <message>
   <source>The project has: %1.</source>
   <translation>Das Projekt hat: %1.</translation>
  </message>
  <message>
   <source>'%1' has no setting '%2'</source>
   <translation>'%1' hat keine Einstellung '%2'</translation>
  </message>
  <message>
   <source>It has: %1.</source>
   <translation>Es hat: %1.</translation>
  </message>
  <message>
   <source>'%1' is no value for it</source>
   <translation>'%1' ist kein Wert dafür</translation>
  </message>
  <message>
   <source>A number is needed.</source>
   <translation>Nötig ist eine Zahl.</translation>
  </message>
  <message>
   <source>A number in %1 is needed.</source>
   <translation>Nötig ist eine Zahl in %1.</translation>
  </message>
  <message>
   <source>it is no number, switch or choice</source>
   <translation>es ist keine Zahl, kein Schalter und keine Auswahl</translation>
  </message>
  <message>
   <source>frames are stepped by frames</source>
   <translation>Bilder gehen Bild für Bild</translation>
  </message>
  <message>
   <source>it is stepped by choices</source>
   <translation>es geht Wahl für Wahl</translation>
  </message>
  <message>
   <source>it cannot be stepped so</source>
   <translation>so lässt es sich nicht stufen</translation>
  </message>
  <message>
   <source>the number of steps must be from 2 to %1</source>
   <translation>es müssen 2 bis %1 Stufen sein</translation>
  </message>
  <message>
   <source>both ends are the same</source>
   <translation>beide Enden sind gleich</translation>
  </message>
  <message>
   <source>stepped by factors both ends must be above 0</source>
   <translation>in Faktoren müssen beide Enden über 0 liegen</translation>
  </message>
  <message>
   <source>frames lie within ±%1</source>
   <translation>Bilder liegen innerhalb von ±%1</translation>
  </message>
  <message>
   <source>its values go from %1</source>
   <translation>seine Werte gehen von %1</translation>
  </message>
  <message>
   <source>it is 0 now, and any number of times that is 0</source>
   <translation>es ist jetzt 0, und ein Vielfaches davon ist 0</translation>
  </message>
  <message>
   <source>Step it evenly instead.</source>
   <translation>Stattdessen gleichmäßig stufen.</translation>
  </message>
  <message>
   <source>all steps come to the same value, %1</source>
   <translation>alle Stufen ergeben denselben Wert, %1</translation>
  </message>
  <message>
   <source>There is no water that it could lie on: add Open water or a Pool.</source>
   <translation>Es gibt kein Wasser, auf dem sie liegen könnte: „Offenes Wasser“ oder ein „Becken“ hinzufügen.</translation>
  </message>
  <message>
   <source>The set it goes with is not there; its place is taken as it stands.</source>
   <translation>Das Set, mit dem es geht, ist nicht da; sein Platz gilt, wie er steht.</translation>
  </message>
  <message>
   <source>The part of the set that it goes with is not there; its place is taken as it stands.</source>
   <translation>Der Teil des Sets, mit dem es geht, ist nicht da; sein Platz gilt, wie er steht.</translation>
  </message>
  <message>
   <source>Choose the volume that is worked on.</source>
   <translation>Das Volumen wählen, das bearbeitet wird.</translation>
  </message>
  <message>
   <source>The volume that is worked on is not there.</source>
   <translation>Das Volumen, das bearbeitet wird, ist nicht da.</translation>
  </message>
  <message>
   <source>Choose another volume to combine it with.</source>
   <translation>Ein anderes Volumen wählen, mit dem es verbunden wird.</translation>
  </message>
  <message>
   <source>Choose the volume that is copied.</source>
   <translation>Das Volumen wählen, das kopiert wird.</translation>
  </message>
  <message>
   <source>The volume that is copied is not there.</source>
   <translation>Das Volumen, das kopiert wird, ist nicht da.</translation>
  </message>
  <message>
   <source>Choose the set object on whose surface they stand.</source>
   <translation>Das Set-Objekt wählen, auf dessen Oberfläche sie stehen.</translation>
  </message>
  <message>
   <source>More than %1 copies shine, but do not light set and air in the live picture.</source>
   <translation>Mehr als %1 Kopien leuchten, erhellen aber im laufenden Bild weder Set noch Luft.</translation>
  </message>
  <message>
   <source>Writing what lies</source>
   <translation>Beim Schreiben dessen, was liegt, nach</translation>
  </message>
  <message>
   <source>it would have %1 × %2 pixels: choose larger cells</source>
   <translation>es hätte %1 × %2 Pixel: größere Zellen wählen</translation>
  </message>
  <message>
   <source>it would have %1 pixels a side: choose larger cells</source>
   <translation>es hätte %1 Pixel je Seite: größere Zellen wählen</translation>
  </message>
  <message>
   <source>no water stands near the camera at this frame</source>
   <translation>bei diesem Bild steht kein Wasser nahe der Kamera</translation>
  </message>
  <message>
   <source>it is a %1; only a Snow cover and Wet ground's puddles can be written</source>
   <translation>es ist: %1; nur eine Schneedecke und die Pfützen von nassem Boden lassen sich schreiben</translation>
  </message>
  <message>
   <source>the file's name must end in %1 (a mesh) or .exr (a height map)</source>
   <translation>der Dateiname muss auf %1 (ein Netz) oder .exr (eine Höhenkarte) enden</translation>
  </message>
  <message>
   <source>nothing of it lies at this frame</source>
   <translation>bei diesem Bild liegt nichts davon</translation>
  </message>
  <message>
   <source>There is no bank of mist that its draught could move: haze is left as it is.</source>
   <translation>Es gibt keine Nebelbank, die sein Sog bewegen könnte; Dunst bleibt, wie er ist.</translation>
  </message>
  <message>
   <source>The wind that carries it is not there; it drifts by itself.</source>
   <translation>Der Wind, der es trägt, ist nicht da; es zieht von selbst.</translation>
  </message>
  <message>
   <source>A cubic metre holds none of it: nothing changes.</source>
   <translation>Ein Kubikmeter enthält nichts davon: nichts ändert sich.</translation>
  </message>
  <message>
   <source>Choose the plume that it rides.</source>
   <translation>Die Fahne wählen, auf der es reitet.</translation>
  </message>
  <message>
   <source>Choose the embers that feed.</source>
   <translation>Die Funken wählen, die speisen.</translation>
  </message>
  <message>
   <source>These embers ride the plume that they are to feed: choose those of another.</source>
   <translation>Diese Funken reiten auf der Fahne, die sie speisen sollen: die einer anderen wählen.</translation>
  </message>
  <message>
   <source>"%1" is not baked at this frame: nothing feeds.</source>
   <translation>„%1“ ist bei diesem Bild nicht gebacken: nichts speist.</translation>
  </message>
  <message>
   <source>What was painted on the object cannot be read: nothing feeds. Paint it anew.</source>
   <translation>Was auf das Objekt gemalt wurde, ist nicht lesbar: nichts speist. Bitte neu malen.</translation>
  </message>
  <message>
   <source>The object's mesh has changed since its faces were painted: none of the %1 is there, nothing feeds. Paint it anew.</source>
   <translation>Das Netz des Objekts hat sich seit dem Bemalen geändert: keine der %1 Flächen ist da, nichts speist. Bitte neu malen.</translation>
  </message>
  <message>
   <source>The object's mesh has changed since its faces were painted: %1 of %2 are no longer there.</source>
   <translation>Das Netz des Objekts hat sich seit dem Bemalen geändert: %1 von %2 Flächen sind nicht mehr da.</translation>
  </message>
  <message>
   <source>The object has no material '%1' any more: nothing feeds.</source>
   <translation>Das Objekt hat kein Material '%1' mehr: nichts speist.</translation>
  </message>
  <message>
   <source>No painted face feeds: the others that are asked for lie elsewhere.</source>
   <translation>Keine bemalte Fläche speist: was sonst verlangt ist, liegt woanders.</translation>
  </message>
  <message>
   <source>No face of the object lies in its box: nothing feeds.</source>
   <translation>Keine Fläche des Objekts liegt in ihrem Quader: nichts speist.</translation>
  </message>
  <message>
   <source>The object's faces have no area: nothing feeds.</source>
   <translation>Die Flächen des Objekts haben keinen Inhalt: nichts speist.</translation>
  </message>
  <message>
   <source>Choose the plume that it feeds.</source>
   <translation>Die Fahne wählen, die sie speist.</translation>
  </message>
  <message>
   <source>Choose the set object that it fills; until then it is left out.</source>
   <translation>Das Set-Objekt wählen, das sie füllt; bis dahin bleibt sie weg.</translation>
  </message>
  <message>
   <source>There is no set object '%1' to fill; it is left out.</source>
   <translation>Es gibt kein Set-Objekt '%1' zu füllen; sie bleibt weg.</translation>
  </message>
  <message>
   <source>'%1' is not closed (%2 open edges): its inside is taken where at least two of three directions agree.</source>
   <translation>'%1' ist nicht geschlossen (%2 offene Kanten): als innen gilt, worin zwei von drei Richtungen übereinstimmen.</translation>
  </message>
  <message>
   <source>'%1' encloses nothing; the bank is left out.</source>
   <translation>'%1' umschließt nichts; die Bank bleibt weg.</translation>
  </message>
  <message>
   <source>Choose the object whose surface it pulls to.</source>
   <translation>Wähle den Gegenstand, zu dessen Oberfläche sie zieht.</translation>
  </message>
  <message>
   <source>No part of the object lies where it acts: it pulls nowhere.</source>
   <translation>Kein Teil des Gegenstands liegt, wo sie wirkt: sie zieht nirgendwohin.</translation>
  </message>
  <message>
   <source>It brings 0 mm an hour: nothing falls.</source>
   <translation>0 mm in der Stunde: es fällt nichts.</translation>
  </message>
  <message>
   <source>The gobo holds %1 values that are negative or no numbers; they let nothing through.</source>
   <translation>Das Gobo enthält %1 Werte, die negativ oder keine Zahlen sind; sie lassen nichts durch.</translation>
  </message>
  <message>
   <source>The drawn gobo: %1. The lamp shines without it.</source>
   <translation>Das gezeichnete Gobo: %1. Die Lampe scheint ohne es.</translation>
  </message>
  <message>
   <source>%1 The lamp shines without it.</source>
   <translation>%1 Die Lampe scheint ohne das.</translation>
  </message>
  <message>
   <source>It takes its brightness from a photometric profile, and has none: it is dark.</source>
   <translation>Ihre Helligkeit kommt aus einem Lichtprofil, und sie hat keines: sie ist dunkel.</translation>
  </message>
  <message>
   <source>Its falloff is not physical.</source>
   <translation>Ihr Abfall ist nicht physikalisch.</translation>
  </message>
  <message>
   <source>Its ends are in one place: there is no way for it.</source>
   <translation>Seine Enden liegen an einem Ort: es gibt keinen Weg.</translation>
  </message>
  <message>
   <source>%1 The picture is shown without it.</source>
   <translation>%1 Das Bild wird ohne sie gezeigt.</translation>
  </message>
  <message>
   <source>Its colour table's 1 lies not above its 0. The picture is shown without it.</source>
   <translation>Die 1 der Farbtabelle liegt nicht über ihrer 0. Das Bild wird ohne sie gezeigt.</translation>
  </message>
  <message>
   <source>There is no surface that is flat enough to stand on.</source>
   <translation>Es gibt keine Oberfläche, die flach genug zum Stehen ist.</translation>
  </message>
  <message>
   <source>Choose the object whose faces they begin on.</source>
   <translation>Das Objekt wählen, auf dessen Flächen sie beginnen.</translation>
  </message>
  <message>
   <source>No painted face of the object is there any more: nothing begins. Paint it anew.</source>
   <translation>Keine bemalte Fläche des Objekts ist noch da: nichts beginnt. Bitte neu malen.</translation>
  </message>
  <message>
   <source>The object has no face of the material '%1'.</source>
   <translation>Das Objekt hat keine Fläche aus dem Material '%1'.</translation>
  </message>
  <message>
   <source>The object's faces have no area: nothing begins.</source>
   <translation>Die Flächen des Objekts haben keinen Inhalt: nichts beginnt.</translation>
  </message>
  <message>
   <source>What each of them is a copy of has no extent: nothing is seen of them.</source>
   <translation>Wovon jedes eine Kopie ist, hat keine Ausdehnung: von ihnen ist nichts zu sehen.</translation>
  </message>
  <message>
   <source>'%1' has no object '%2'; it has %3.</source>
   <translation>'%1' hat kein Objekt '%2'; es hat %3.</translation>
  </message>
  <message>
   <source>'%1' has no objects to tell apart.</source>
   <translation>'%1' hat keine Objekte, die sich unterscheiden ließen.</translation>
  </message>
  <message>
   <source>The plate has no depth: all of it counts as sky.</source>
   <translation>Die Plate hat keine Tiefe: alles gilt als Himmel.</translation>
  </message>
  <message>
   <source>What feeds it is muted, or its object is not there: nothing comes of it.</source>
   <translation>Was sie speist, ist stumm, oder sein Objekt ist nicht da: es wird nichts daraus.</translation>
  </message>
  <message>
   <source>Nothing feeds it: add a Feed and choose this plume on its card.</source>
   <translation>Nichts speist sie: eine Speisung hinzufügen und auf deren Karte diese Fahne wählen.</translation>
  </message>
  <message>
   <source>It overlaps with %1: they do not push each other. "Join overlapping plumes" makes them one.</source>
   <translation>Sie überlappt mit %1: sie schieben einander nicht. „Überlappende Fahnen vereinen“ macht eine daraus.</translation>
  </message>
  <message>
   <source>Writing points</source>
   <translation>Beim Schreiben von Punkten nach</translation>
  </message>
  <message>
   <source>the file could not be written (is the disk full?)</source>
   <translation>die Datei ließ sich nicht schreiben (ist die Platte voll?)</translation>
  </message>
  <message>
   <source>it is a %1; only Particles and Embers can be written as points</source>
   <translation>es ist: %1; nur Teilchen und Funken lassen sich als Punkte schreiben</translation>
  </message>
  <message>
   <source>the file's name must end in .ply or .vdb</source>
   <translation>der Dateiname muss auf .ply oder .vdb enden</translation>
  </message>
  <message>
   <source>frame %1 is not baked</source>
   <translation>Bild %1 ist nicht gebacken</translation>
  </message>
  <message>
   <source>Bake it first.</source>
   <translation>Zuerst backen.</translation>
  </message>
  <message>
   <source>there are none at frame %1</source>
   <translation>bei Bild %1 gibt es keine</translation>
  </message>
  <message>
   <source>There is no set whose walls could hold water: add one, or Open water.</source>
   <translation>Es gibt kein Set, dessen Wände Wasser halten könnten: eines hinzufügen, oder Offenes Wasser.</translation>
  </message>
  <message>
   <source>Its place lies within something solid: set it down where the water is to stand.</source>
   <translation>Sein Platz liegt in etwas Festem: dorthin setzen, wo das Wasser stehen soll.</translation>
  </message>
  <message>
   <source>The sets do not close around it within %1: at this height the water would run out. Lower it, close the walls, or let it run on.</source>
   <translation>Die Sets schließen sich im Umkreis von %1 nicht darum: in dieser Höhe liefe das Wasser aus. Tiefer setzen, die Wände schließen oder weiterlaufen lassen.</translation>
  </message>
  <message>
   <source>Choose the plume that it is put into.</source>
   <translation>Die Fahne wählen, in die sie gesteckt ist.</translation>
  </message>
  <message>
   <source>there is no element '%1' any more</source>
   <translation>ein Element '%1' gibt es nicht mehr</translation>
  </message>
  <message>
   <source>Holding out</source>
   <translation>Beim Aussparen von</translation>
  </message>
  <message>
   <source>there is no such set in the project</source>
   <translation>ein solches Set gibt es im Projekt nicht</translation>
  </message>
  <message>
   <source>It brings 0 cm an hour: nothing falls.</source>
   <translation>0 cm in der Stunde: es fällt nichts.</translation>
  </message>
  <message>
   <source>The Snow that it is to have fallen from is not there.</source>
   <translation>Der Schnee, aus dem sie gefallen sein soll, ist nicht da.</translation>
  </message>
  <message>
   <source>Nothing of it lies.</source>
   <translation>Nichts davon liegt.</translation>
  </message>
  <message>
   <source>That much Snow in so many hours is more than 5 m: it is taken for 5 m.</source>
   <translation>So viel Schnee in so vielen Stunden ist mehr als 5 m: es gilt als 5 m.</translation>
  </message>
  <message>
   <source>There is no set on which it could lie.</source>
   <translation>Es gibt kein Set, auf dem sie liegen könnte.</translation>
  </message>
  <message>
   <source>Nothing near the camera is open to the sky: none lies there.</source>
   <translation>Nichts nahe der Kamera ist zum Himmel offen: dort liegt keiner.</translation>
  </message>
  <message>
   <source>The file has no clips; it stands still.</source>
   <translation>Die Datei hat keine Clips; es steht still.</translation>
  </message>
  <message>
   <source>The file has only 1 clip; it stands still.</source>
   <translation>Die Datei hat nur 1 Clip; es steht still.</translation>
  </message>
  <message>
   <source>The file has only %1 clips; it stands still.</source>
   <translation>Die Datei hat nur %1 Clips; es steht still.</translation>
  </message>
  <message>
   <source>There is no water that it could float on: add Open water or a Pool.</source>
   <translation>Es gibt kein Wasser, auf dem es schwimmen könnte: „Offenes Wasser“ oder ein „Becken“ hinzufügen.</translation>
  </message>
  <message>
   <source>It reaches farther than 10 000 km and is left out: check its scale, its unit and its position.</source>
   <translation>Es reicht weiter als 10 000 km und bleibt weg: Maßstab, Einheit und Position prüfen.</translation>
  </message>
  <message>
   <source>It is only %1 across: is the file's unit right? Scale it by a known length.</source>
   <translation>Nur %1 groß: stimmt die Einheit der Datei? Nach einer bekannten Länge skalieren.</translation>
  </message>
  <message>
   <source>It is %1 across and %2 high: is the file's unit right? Scale it by a known length.</source>
   <translation>%1 groß und %2 hoch: stimmt die Einheit der Datei? Nach einer bekannten Länge skalieren.</translation>
  </message>
  <message>
   <source>%1; it is placed by its angles.</source>
   <translation>%1; sie steht nach ihren Winkeln.</translation>
  </message>
  <message>
   <source>The panorama holds %1 values that are negative or no numbers; they count as black.</source>
   <translation>Das Panorama enthält %1 Werte, die negativ oder keine Zahlen sind; sie gelten als schwarz.</translation>
  </message>
  <message>
   <source>%1 The computed sky stands in.</source>
   <translation>%1 Der berechnete Himmel tritt ein.</translation>
  </message>
  <message>
   <source>Choose the volume that it colours.</source>
   <translation>Das Volumen wählen, das es färbt.</translation>
  </message>
  <message>
   <source>The volume that it colours is not there.</source>
   <translation>Das Volumen, das es färbt, ist nicht da.</translation>
  </message>
  <message>
   <source>Its volume has no heat: let it glow, or choose another kind of place.</source>
   <translation>Sein Volumen hat keine Hitze: es glühen lassen oder eine andere Art Ort wählen.</translation>
  </message>
  <message>
   <source>Choose the set object from whose surface it counts.</source>
   <translation>Das Set-Objekt wählen, von dessen Oberfläche es zählt.</translation>
  </message>
  <message>
   <source>Exporting a volume of</source>
   <translation>Beim Exportieren eines Volumens von</translation>
  </message>
  <message>
   <source>there is no volume '%1' in its frame</source>
   <translation>in seinem Bild gibt es kein Volumen '%1'</translation>
  </message>
  <message>
   <source>frame %1 of '%2' is not baked</source>
   <translation>Bild %1 von '%2' ist nicht gebacken</translation>
  </message>
  <message>
   <source>volume '%1' is empty in this frame</source>
   <translation>Volumen '%1' ist in diesem Bild leer</translation>
  </message>
  <message>
   <source>Its voxels are %1: no side gets more than %2 of them.</source>
   <translation>Seine Voxel sind %1 groß: keine Seite bekommt mehr als %2.</translation>
  </message>
  <message>
   <source>The object is not closed (%1 open edges): its inside is taken where at least two of three directions agree.</source>
   <translation>Das Objekt ist nicht geschlossen (%1 offene Kanten): als innen gilt, worin zwei von drei Richtungen übereinstimmen.</translation>
  </message>
  <message>
   <source>The object encloses nothing.</source>
   <translation>Das Objekt umschließt nichts.</translation>
  </message>
  <message>
   <source>Frame %1 of it is not there yet; until then it is left out.</source>
   <translation>Bild %1 davon ist noch nicht da; bis dahin bleibt es weg.</translation>
  </message>
  <message>
   <source>Choose an OpenVDB file; until then it is left out.</source>
   <translation>Eine OpenVDB-Datei wählen; bis dahin bleibt es weg.</translation>
  </message>
  <message>
   <source>None of the file's grids is known to be a density; choose one.</source>
   <translation>Keines der Gitter der Datei ist als Dichte bekannt; eines wählen.</translation>
  </message>
  <message>
   <source>None of the file's grids is known to be a temperature or a flame; choose the heat grid.</source>
   <translation>Keines der Gitter der Datei ist als Temperatur oder Flamme bekannt; das Hitzegitter wählen.</translation>
  </message>
  <message>
   <source>None of the file's grids is known to be a velocity; choose one, or it is not blurred by its motion.</source>
   <translation>Keines der Gitter der Datei ist als Geschwindigkeit bekannt; eines wählen, sonst bleibt es ohne Bewegungsunschärfe.</translation>
  </message>
  <message>
   <source>A shape has no heat to glow with; only files do.</source>
   <translation>Eine Form hat keine Hitze, mit der sie glühen könnte; nur Dateien haben sie.</translation>
  </message>
  <message>
   <source>Choose the set object that becomes fog; until then it is left out.</source>
   <translation>Das Set-Objekt wählen, das zu Nebel wird; bis dahin bleibt es weg.</translation>
  </message>
  <message>
   <source>There is no set object '%1'; it is left out.</source>
   <translation>Es gibt kein Set-Objekt '%1'; es bleibt weg.</translation>
  </message>
  <message>
   <source>Frame %1, which is shown here, is not baked.</source>
   <translation>Bild %1, das hier gezeigt wird, ist nicht gebacken.</translation>
  </message>
  <message>
   <source>The Wind that makes its waves is not there; its own numbers do.</source>
   <translation>Der Wind, der seine Wellen macht, ist nicht da; es gelten seine eigenen Zahlen.</translation>
  </message>
  <message>
   <source>Writing water</source>
   <translation>Beim Schreiben von Wasser nach</translation>
  </message>
  <message>
   <source>it is a %1; only Open water and a Pool can be written</source>
   <translation>es ist: %1; nur offenes Wasser und ein Becken lassen sich schreiben</translation>
  </message>
  <message>
   <source>it is not in the picture at this frame</source>
   <translation>bei diesem Bild ist es nicht im Bild</translation>
  </message>
  <message>
   <source>it would have %1 samples a side: choose another size or cell</source>
   <translation>es hätte %1 Werte je Seite: eine andere Größe oder Zelle wählen</translation>
  </message>
  <message>
   <source>none of the water lies ahead of the camera within that size</source>
   <translation>innerhalb dieser Größe liegt kein Wasser vor der Kamera</translation>
  </message>
  <message>
   <source>the water is calm: it has no tile of waves</source>
   <translation>das Wasser ist still: es hat keine Kachel von Wellen</translation>
  </message>
  <message>
   <source>the file's name must end in %1 (the surface) or .exr (its maps)</source>
   <translation>der Dateiname muss auf %1 (die Fläche) oder .exr (ihre Karten) enden</translation>
  </message>
  <message>
   <source>there is no water at that place</source>
   <translation>an dieser Stelle gibt es kein Wasser</translation>
  </message>
  <message>
   <source>The set that is to be wet is not there.</source>
   <translation>Das Set, das nass sein soll, ist nicht da.</translation>
  </message>
  <message>
   <source>There is no set that could be wet.</source>
   <translation>Es gibt kein Set, das nass sein könnte.</translation>
  </message>
  <message>
   <source>It is neither wet nor has it puddles: nothing changes.</source>
   <translation>Weder nass noch mit Pfützen: nichts ändert sich.</translation>
  </message>
  <message>
   <source>Preparing the display transform</source>
   <translation>Beim Vorbereiten der Anzeige</translation>
  </message>
  <message>
   <source>the program ffmpeg, which writes movies, is not installed</source>
   <translation>das Programm ffmpeg, das Filme schreibt, ist nicht installiert</translation>
  </message>
  <message>
   <source>ffmpeg does not start: %1</source>
   <translation>ffmpeg startet nicht: %1</translation>
  </message>
  <message>
   <source>Numbered pictures need nothing: a name with #, such as fog.####.png.</source>
   <translation>Nummerierte Bilder brauchen nichts: ein Name mit #, etwa nebel.####.png.</translation>
  </message>
  <message>
   <source>Nothing was written.</source>
   <translation>Nichts wurde geschrieben.</translation>
  </message>
  <message>
   <source>Importing</source>
   <translation>Beim Importieren von</translation>
  </message>
  <message>
   <source>it is damaged (%1)</source>
   <translation>es ist beschädigt (%1)</translation>
  </message>
  <message>
   <source>its blocks lie in each other more than %1 deep</source>
   <translation>seine Blöcke liegen mehr als %1 tief ineinander</translation>
  </message>
  <message>
   <source>its models hang on each other more than %1 deep</source>
   <translation>seine Modelle hängen mehr als %1 tief aneinander</translation>
  </message>
  <message>
   <source>its models come in more than a million places</source>
   <translation>seine Modelle kommen an mehr als einer Million Stellen vor</translation>
  </message>
  <message>
   <source>its models hang on each other in a circle</source>
   <translation>seine Modelle hängen im Kreis aneinander</translation>
  </message>
  <message>
   <source>numbers in it are not floating-point where they should be</source>
   <translation>Zahlen darin sind keine Gleitkommazahlen, wo sie es sein sollten</translation>
  </message>
  <message>
   <source>a mesh refers to data that is not there</source>
   <translation>ein Netz nennt Daten, die es nicht gibt</translation>
  </message>
  <message>
   <source>a mesh keeps its data in a way that cannot be read (sparse or without a buffer view)</source>
   <translation>ein Netz hält seine Daten auf eine Art, die nicht gelesen wird (dünn besetzt oder ohne Puffersicht)</translation>
  </message>
  <message>
   <source>a mesh's data has the wrong shape</source>
   <translation>die Daten eines Netzes haben die falsche Form</translation>
  </message>
  <message>
   <source>a mesh refers to a buffer that is not there</source>
   <translation>ein Netz nennt einen Puffer, den es nicht gibt</translation>
  </message>
  <message>
   <source>a mesh's data has an unknown type</source>
   <translation>die Daten eines Netzes haben einen unbekannten Typ</translation>
  </message>
  <message>
   <source>it is truncated: a mesh's data ends before it should</source>
   <translation>es ist abgeschnitten: die Daten eines Netzes enden zu früh</translation>
  </message>
  <message>
   <source>a mesh's vertices are not floating-point</source>
   <translation>die Punkte eines Netzes sind keine Gleitkommazahlen</translation>
  </message>
  <message>
   <source>its tree of nodes is broken</source>
   <translation>sein Baum von Knoten ist gebrochen</translation>
  </message>
  <message>
   <source>a texture in it cannot be read</source>
   <translation>eine Textur darin lässt sich nicht lesen</translation>
  </message>
  <message>
   <source>a skin refers to a joint that is not there</source>
   <translation>eine Haut nennt ein Gelenk, das es nicht gibt</translation>
  </message>
  <message>
   <source>a skin has fewer weights than its mesh has vertices</source>
   <translation>eine Haut hat weniger Gewichte als ihr Netz Punkte</translation>
  </message>
  <message>
   <source>it is damaged or truncated (%1)</source>
   <translation>es ist beschädigt oder abgeschnitten (%1)</translation>
  </message>
  <message>
   <source>no valid glTF</source>
   <translation>kein gültiges glTF</translation>
  </message>
  <message>
   <source>its header does not end</source>
   <translation>sein Kopf endet nicht</translation>
  </message>
  <message>
   <source>it ends early</source>
   <translation>es endet zu früh</translation>
  </message>
  <message>
   <source>a face has more corners than the file has bytes</source>
   <translation>eine Fläche hat mehr Ecken als die Datei Bytes</translation>
  </message>
  <message>
   <source>a face refers to a vertex that is not there</source>
   <translation>eine Fläche nennt einen Punkt, den es nicht gibt</translation>
  </message>
  <message>
   <source>a number cannot be read</source>
   <translation>eine Zahl lässt sich nicht lesen</translation>
  </message>
  <message>
   <source>it has a type that is none</source>
   <translation>es hat einen Typ, den es nicht gibt</translation>
  </message>
  <message>
   <source>it does not begin as a PLY file</source>
   <translation>es beginnt nicht wie eine PLY-Datei</translation>
  </message>
  <message>
   <source>its format is not one of the three</source>
   <translation>sein Format ist keines der drei</translation>
  </message>
  <message>
   <source>it does not say how many there are</source>
   <translation>es sagt nicht, wie viele es sind</translation>
  </message>
  <message>
   <source>its header cannot be read</source>
   <translation>sein Kopf lässt sich nicht lesen</translation>
  </message>
  <message>
   <source>it does not say its format</source>
   <translation>es sagt sein Format nicht</translation>
  </message>
  <message>
   <source>it cannot be read</source>
   <translation>es lässt sich nicht lesen</translation>
  </message>
  <message>
   <source>it has fewer bytes than its header promises</source>
   <translation>es hat weniger Bytes, als sein Kopf verspricht</translation>
  </message>
  <message>
   <source>its vertices have no places</source>
   <translation>seine Punkte haben keine Orte</translation>
  </message>
  <message>
   <source>Reading the depth</source>
   <translation>Beim Lesen der Tiefe aus</translation>
  </message>
  <message>
   <source>it has no channel '%1'</source>
   <translation>es hat keinen Kanal '%1'</translation>
  </message>
  <message>
   <source>Reading the plate</source>
   <translation>Beim Lesen der Plate</translation>
  </message>
  <message>
   <source>it has no red, green and blue</source>
   <translation>es hat kein Rot, Grün und Blau</translation>
  </message>
  <message>
   <source>it has no layer '%1'</source>
   <translation>es hat keine Ebene '%1'</translation>
  </message>
  <message>
   <source>The picture holds %1 values that are no finite numbers; they stay as they are.</source>
   <translation>Das Bild enthält %1 Werte, die keine endlichen Zahlen sind; sie bleiben, wie sie sind.</translation>
  </message>
  <message>
   <source>The depth is %1, the picture %2: the depth is left out. Turn on “fit depth” to resample it to the picture.</source>
   <translation>Die Tiefe ist %1, das Bild %2: die Tiefe bleibt weg. „Tiefe anpassen“ einschalten, damit sie auf das Bild umgerechnet wird.</translation>
  </message>
  <message>
   <source>The depth is resampled from %1 to %2, nearest value.</source>
   <translation>Die Tiefe ist von %1 auf %2 umgerechnet, nächster Wert.</translation>
  </message>
  <message>
   <source>%1 depths are negative or not a number; there the plate counts as sky.</source>
   <translation>%1 Tiefen sind negativ oder keine Zahl; dort gilt die Plate als Himmel.</translation>
  </message>
  <message>
   <source>No depth was found in channel “%1”: all of the plate counts as sky. Look at the depth's unit and channel.</source>
   <translation>Im Kanal „%1“ fand sich keine Tiefe: die ganze Plate gilt als Himmel. Einheit und Kanal der Tiefe prüfen.</translation>
  </message>
  <message>
   <source>Building the ray structure</source>
   <translation>Beim Aufbau der Strahlstruktur</translation>
  </message>
  <message>
   <source>Embree reported an error (is there enough memory?)</source>
   <translation>Embree meldet einen Fehler (reicht der Speicher?)</translation>
  </message>
  <message>
   <source>mesh '%1' has a %2</source>
   <translation>Netz '%1' hat unter anderem: %2</translation>
  </message>
  <message>
   <source> beyond 10 000 km</source>
   <translation> jenseits von 10 000 km</translation>
  </message>
  <message>
   <source> that is not a number</source>
   <translation>, keine Zahl</translation>
  </message>
  <message>
   <source>The file is damaged. Nothing was replaced.</source>
   <translation>Die Datei ist beschädigt. Nichts wurde ersetzt.</translation>
  </message>
  <message>
   <source>there is no such file</source>
   <translation>eine solche Datei gibt es nicht</translation>
  </message>
  <message>
   <source>the ending '%1' is not one that can be read</source>
   <translation>Dateien mit der Endung '%1' werden nicht gelesen</translation>
  </message>
  <message>
   <source>Use .glb, .gltf, .obj, .ply or .fbx.</source>
   <translation>Es gehen .glb, .gltf, .obj, .ply und .fbx.</translation>
  </message>
  <message>
   <source>mesh '%1' refers to a vertex that is not there</source>
   <translation>Netz '%1' nennt einen Punkt, den es nicht gibt</translation>
  </message>
  <message>
   <source>it holds no faces</source>
   <translation>es enthält keine Flächen</translation>
  </message>
  <message>
   <source>Points and lines alone make no set. Nothing was replaced.</source>
   <translation>Punkte und Linien allein sind kein Set. Nichts wurde ersetzt.</translation>
  </message>
  <message>
   <source>Embree did not start</source>
   <translation>Embree startet nicht</translation>
  </message>
  <message>
   <source>Reading the colour configuration</source>
   <translation>Beim Lesen der Farbkonfiguration</translation>
  </message>
  <message>
   <source>Choose another .ocio file, or clear the field.</source>
   <translation>Eine andere .ocio-Datei wählen oder das Feld leeren.</translation>
  </message>
  <message>
   <source>its transforms are nested deeper than 64</source>
   <translation>ihre Transformationen sind tiefer als 64 verschachtelt</translation>
  </message>
  <message>
   <source>It is larger than 16 MB.</source>
   <translation>Sie ist größer als 16 MB.</translation>
  </message>
  <message>
   <source>It shows nothing: it has no display with a view.</source>
   <translation>Sie zeigt nichts: Sie hat keine Anzeige mit einer Ansicht.</translation>
  </message>
  <message>
   <source>Its %1 refers to itself by way of others.</source>
   <translation>Ihr %1 bezieht sich über andere auf sich selbst.</translation>
  </message>
  <message>
   <source>It is no OpenColorIO configuration that can be used: %1</source>
   <translation>Sie ist keine brauchbare OpenColorIO-Konfiguration: %1</translation>
  </message>
  <message>
   <source>It has no display "%1" but %2.</source>
   <translation>Sie hat keine Anzeige „%1“, sondern %2.</translation>
  </message>
  <message>
   <source>Its display %1 has no view "%2" but %3.</source>
   <translation>Ihre Anzeige %1 hat keine Ansicht „%2“, sondern %3.</translation>
  </message>
  <message>
   <source>%1, which it reads, is larger than 1 GB.</source>
   <translation>%1, was sie liest, ist größer als 1 GB.</translation>
  </message>
  <message>
   <source>It has no colour space "%1".</source>
   <translation>Sie hat keinen Farbraum „%1“.</translation>
  </message>
  <message>
   <source>It does not say which colour space is linear light: it has neither the role aces_interchange nor scene_linear. Choose one of its spaces for light.</source>
   <translation>Sie sagt nicht, welcher Farbraum lineares Licht ist: Sie hat weder die Rolle aces_interchange noch scene_linear. Einen ihrer Räume für Licht wählen.</translation>
  </message>
  <message>
   <source>It cannot show its view: %1</source>
   <translation>Sie kann ihre Ansicht nicht zeigen: %1</translation>
  </message>
  <message>
   <source>Reading the colour table</source>
   <translation>Beim Lesen der Farbtabelle</translation>
  </message>
  <message>
   <source>Choose another .cube file, or clear the field.</source>
   <translation>Eine andere .cube-Datei wählen oder das Feld leeren.</translation>
  </message>
  <message>
   <source>where a number should stand is “%1”</source>
   <translation>wo eine Zahl stehen sollte, steht „%1“</translation>
  </message>
  <message>
   <source>a number is not finite</source>
   <translation>eine Zahl ist nicht endlich</translation>
  </message>
  <message>
   <source>there are more than %1 numbers</source>
   <translation>es sind mehr als %1 Zahlen</translation>
  </message>
  <message>
   <source>the table's size is no number from 2 to %1</source>
   <translation>die Größe der Tabelle ist keine Zahl von 2 bis %1</translation>
  </message>
  <message>
   <source>%1 (line %2).</source>
   <translation>%1 (Zeile %2).</translation>
  </message>
  <message>
   <source>it is larger than 256 MB, no colour table of a size that is read here is.</source>
   <translation>sie ist größer als 256 MB; so groß ist keine Farbtabelle, die hier gelesen wird.</translation>
  </message>
  <message>
   <source>numbers begin before the table's size is told</source>
   <translation>Zahlen beginnen, bevor die Größe der Tabelle genannt ist</translation>
  </message>
  <message>
   <source>there are more numbers than the table's size tells</source>
   <translation>es sind mehr Zahlen, als die Größe der Tabelle sagt</translation>
  </message>
  <message>
   <source>where numbers should go on is “%1”</source>
   <translation>wo Zahlen weitergehen sollten, steht „%1“</translation>
  </message>
  <message>
   <source>the table's size is told twice</source>
   <translation>die Größe der Tabelle ist zweimal genannt</translation>
  </message>
  <message>
   <source>its keyword “%1” is not known</source>
   <translation>ihr Schlüsselwort „%1“ ist nicht bekannt</translation>
  </message>
  <message>
   <source>it tells no size of a table, so it is no .cube file.</source>
   <translation>sie nennt keine Größe einer Tabelle, ist also keine .cube-Datei.</translation>
  </message>
  <message>
   <source>it ends after %1 of %2 lines of numbers.</source>
   <translation>sie endet nach %1 von %2 Zeilen mit Zahlen.</translation>
  </message>
  <message>
   <source>its domain is empty: the end lies not above the beginning.</source>
   <translation>ihr Bereich ist leer: das Ende liegt nicht über dem Anfang.</translation>
  </message>
  <message>
   <source>no picture format belongs to this ending</source>
   <translation>zu dieser Endung gehört kein Bildformat</translation>
  </message>
  <message>
   <source>Use .exr or .png.</source>
   <translation>Es gehen .exr und .png.</translation>
  </message>
  <message>
   <source>Reading</source>
   <translation>Beim Lesen von</translation>
  </message>
  <message>
   <source>it is no picture that can be read (%1)</source>
   <translation>es ist kein lesbares Bild (%1)</translation>
  </message>
  <message>
   <source>it is damaged: its %1 bytes cannot hold %2 × %3 pixels</source>
   <translation>es ist beschädigt: in %1 Bytes passen keine %2 × %3 Pixel</translation>
  </message>
  <message>
   <source>Reading the picture</source>
   <translation>Beim Lesen des Bildes</translation>
  </message>
  <message>
   <source>it is damaged: %1 is said to be longer than the file</source>
   <translation>es ist beschädigt: %1 soll länger sein als die Datei</translation>
  </message>
  <message>
   <source>a piece</source>
   <translation>ein Stück</translation>
  </message>
  <message>
   <source>what its header tells</source>
   <translation>was sein Kopf sagt</translation>
  </message>
  <message>
   <source>it is not there</source>
   <translation>es ist nicht da</translation>
  </message>
  <message>
   <source>Reading or writing a picture</source>
   <translation>Beim Lesen oder Schreiben eines Bildes mit</translation>
  </message>
  <message>
   <source>It belongs to the program: install that again. Projects are not touched by it.</source>
   <translation>Es gehört zum Programm: dieses neu installieren. Projekte berührt das nicht.</translation>
  </message>
  <message>
   <source>“%1” is no point; write x and y apart by a blank, points apart by commas, outlines by semicolons</source>
   <translation>„%1“ ist kein Punkt; x und y trennt ein Leerzeichen, Punkte ein Komma, Umrisse ein Strichpunkt</translation>
  </message>
  <message>
   <source>an outline needs at least three points</source>
   <translation>ein Umriss braucht mindestens drei Punkte</translation>
  </message>
  <message>
   <source>Reading the panorama</source>
   <translation>Beim Lesen des Panoramas</translation>
  </message>
  <message>
   <source>it is %1×%2, a whole sphere is twice as wide as high</source>
   <translation>es misst %1×%2, eine ganze Kugel ist doppelt so breit wie hoch</translation>
  </message>
  <message>
   <source>Choose a picture of the whole sphere in equal angles.</source>
   <translation>Ein Bild der ganzen Kugel in gleichen Winkeln wählen.</translation>
  </message>
  <message>
   <source>Reading the photometric file</source>
   <translation>Beim Lesen des Lichtprofils</translation>
  </message>
  <message>
   <source>Choose another IES file, or clear the field.</source>
   <translation>Eine andere IES-Datei wählen oder das Feld leeren.</translation>
  </message>
  <message>
   <source>it ends before its %1.</source>
   <translation>es endet vor: %1.</translation>
  </message>
  <message>
   <source>where a number of its %1 should stand is “%2”.</source>
   <translation>wo eine Zahl stehen soll (%1), steht „%2“.</translation>
  </message>
  <message>
   <source>a number of its %1 is not finite.</source>
   <translation>eine Zahl ist nicht endlich (%1).</translation>
  </message>
  <message>
   <source>its %1 is no number from 1 to %2.</source>
   <translation>keine Zahl von 1 bis %2: %1.</translation>
  </message>
  <message>
   <source>it cannot be opened</source>
   <translation>es lässt sich nicht öffnen</translation>
  </message>
  <message>
   <source>Check the name, or clear the field.</source>
   <translation>Den Namen prüfen oder das Feld leeren.</translation>
  </message>
  <message>
   <source>it is larger than 8 MB, no photometric file is.</source>
   <translation>es ist größer als 8 MB; so groß ist kein Lichtprofil.</translation>
  </message>
  <message>
   <source>it has no TILT line, so it is no IES file.</source>
   <translation>es hat keine TILT-Zeile, ist also keine IES-Datei.</translation>
  </message>
  <message>
   <source>it ends after its TILT line.</source>
   <translation>es endet nach seiner TILT-Zeile.</translation>
  </message>
  <message>
   <source>it is of photometric type B or A (floodlights, vehicles); type C is read.</source>
   <translation>es ist vom Typ B oder A (Strahler, Fahrzeuge); gelesen wird Typ C.</translation>
  </message>
  <message>
   <source>its photometric type is none of 1, 2, 3.</source>
   <translation>sein Typ ist keiner von 1, 2, 3.</translation>
  </message>
  <message>
   <source>its %1 do not rise.</source>
   <translation>nicht steigend: %1.</translation>
  </message>
  <message>
   <source>its angles leave 0…180° or 0…360°.</source>
   <translation>seine Winkel verlassen 0…180° oder 0…360°.</translation>
  </message>
  <message>
   <source>one of its candela is negative.</source>
   <translation>eine seiner Lichtstärken ist negativ.</translation>
  </message>
  <message>
   <source>it sends no light: all of its candela are 0.</source>
   <translation>es sendet kein Licht: alle Lichtstärken sind 0.</translation>
  </message>
  <message>
   <source>“%1” is no date; write year-month-day as in 2026-06-21</source>
   <translation>„%1“ ist kein Datum; Jahr-Monat-Tag schreiben wie in 2026-06-21</translation>
  </message>
  <message>
   <source>a grid</source>
   <translation>eines Gitters</translation>
  </message>
  <message>
   <source>its voxels lie too far apart (%1 thousand million places)</source>
   <translation>seine Voxel liegen zu weit auseinander (%1 Milliarden Plätze)</translation>
  </message>
  <message>
   <source>Split it, or resample it to larger voxels.</source>
   <translation>Es teilen oder mit größeren Voxeln neu abtasten.</translation>
  </message>
  <message>
   <source>there is no grid in it</source>
   <translation>es ist kein Gitter darin</translation>
  </message>
  <message>
   <source>there are several grids in it and none was chosen</source>
   <translation>es sind mehrere Gitter darin, und keines ist gewählt</translation>
  </message>
  <message>
   <source>Choose one of %1.</source>
   <translation>Eines von diesen wählen: %1.</translation>
  </message>
  <message>
   <source>there is no grid '%1' in it</source>
   <translation>es ist kein Gitter '%1' darin</translation>
  </message>
  <message>
   <source>There are %1.</source>
   <translation>Es gibt %1.</translation>
  </message>
  <message>
   <source>grid '%1' holds neither plain numbers nor vectors on an even lattice</source>
   <translation>Gitter '%1' enthält weder Zahlen noch Vektoren auf gleichmäßigem Raster</translation>
  </message>
  <message>
   <source>Convert it to a grid of numbers.</source>
   <translation>Es in ein Gitter aus Zahlen umwandeln.</translation>
  </message>
  <message>
   <source>grid '%1' lies in a tapering frame</source>
   <translation>Gitter '%1' liegt in einem sich verjüngenden Rahmen</translation>
  </message>
  <message>
   <source>Resample it to an even lattice.</source>
   <translation>Es auf ein gleichmäßiges Raster neu abtasten.</translation>
  </message>
  <message>
   <source>the place of grid '%1' is not a number</source>
   <translation>der Ort von Gitter '%1' ist keine Zahl</translation>
  </message>
  <message>
   <source>'%1' is a level set; it was turned into fog.</source>
   <translation>'%1' ist ein Abstandsfeld; es wurde zu Nebel gemacht.</translation>
  </message>
  <message>
   <source>grid '%1' holds %2, which is neither numbers nor vectors</source>
   <translation>Gitter '%1' enthält %2, das sind weder Zahlen noch Vektoren</translation>
  </message>
  <message>
   <source>%1 values of '%2' are negative or not a number; they count as 0.</source>
   <translation>%1 Werte von '%2' sind negativ oder keine Zahl; sie gelten als 0.</translation>
  </message>
  <message>
   <source>'%1' is empty.</source>
   <translation>'%1' ist leer.</translation>
  </message>
  <message>
   <source>Writing volumes to</source>
   <translation>Beim Schreiben von Volumen nach</translation>
  </message>
  <message>
   <source>What was there before was kept.</source>
   <translation>Was vorher da war, blieb.</translation>
  </message>
  <message>
   <source>Reading volumes from</source>
   <translation>Beim Lesen von Volumen aus</translation>
  </message>
  <message>
   <source>it is empty</source>
   <translation>es ist leer</translation>
  </message>
  <message>
   <source>it is no OpenVDB file</source>
   <translation>es ist keine OpenVDB-Datei</translation>
  </message>
  <message>
   <source>its format version %1 is not known</source>
   <translation>seine Formatversion %1 ist nicht bekannt</translation>
  </message>
  <message>
   <source>Write it again with a newer program.</source>
   <translation>Mit einem neueren Programm noch einmal schreiben.</translation>
  </message>
  <message>
   <source>it was written as a stream, without a table of contents</source>
   <translation>es wurde als Strom geschrieben, ohne Verzeichnis</translation>
  </message>
  <message>
   <source>Write it again as a file.</source>
   <translation>Noch einmal als Datei schreiben.</translation>
  </message>
  <message>
   <source>it claims %1 grids</source>
   <translation>es will %1 Gitter haben</translation>
  </message>
  <message>
   <source>its table of contents contradicts itself</source>
   <translation>sein Verzeichnis widerspricht sich</translation>
  </message>
  <message>
   <source>it ends too early (%1 bytes are there)</source>
   <translation>es endet zu früh (%1 Bytes sind da)</translation>
  </message>
  <message>
   <source>Copy it again from where it came, or write it again.</source>
   <translation>Noch einmal von der Quelle kopieren oder neu schreiben.</translation>
  </message>
  <message>
   <source>it is damaged: %1</source>
   <translation>es ist beschädigt: %1</translation>
  </message>
  <message>
   <source>a name in it is said to be %1 letters long</source>
   <translation>ein Name darin soll %1 Zeichen lang sein</translation>
  </message>
  <message>
   <source>its notes are without end</source>
   <translation>seine Anmerkungen nehmen kein Ende</translation>
  </message>
  <message>
   <source>a note in it has no name</source>
   <translation>eine Anmerkung darin hat keinen Namen</translation>
  </message>
  <message>
   <source>note '%1' has a wrong size</source>
   <translation>Anmerkung '%1' hat eine falsche Größe</translation>
  </message>
  <message>
   <source>a note in it claims %1 leaves</source>
   <translation>eine Notiz darin behauptet %1 Blätter</translation>
  </message>
  <message>
   <source>a note in it is larger than its place</source>
   <translation>eine Notiz darin ist größer als ihr Platz</translation>
  </message>
  <message>
   <source>its packing is not known</source>
   <translation>seine Packung ist nicht bekannt</translation>
  </message>
  <message>
   <source>its place is given in an unknown way</source>
   <translation>sein Ort ist auf unbekannte Art gegeben</translation>
  </message>
  <message>
   <source>its tree is not one</source>
   <translation>sein Baum ist keiner</translation>
  </message>
  <message>
   <source>its tree is larger than its place</source>
   <translation>sein Baum ist größer als sein Platz</translation>
  </message>
  <message>
   <source>values in it are packed in an unknown way</source>
   <translation>Werte darin sind auf unbekannte Art gepackt</translation>
  </message>
  <message>
   <source>plain values in it have a wrong size</source>
   <translation>ungepackte Werte darin haben eine falsche Größe</translation>
  </message>
  <message>
   <source>packed values in it are too short</source>
   <translation>gepackte Werte darin sind zu kurz</translation>
  </message>
  <message>
   <source>packed values in it have a wrong size</source>
   <translation>gepackte Werte darin haben eine falsche Größe</translation>
  </message>
  <message>
   <source>Combining volumes</source>
   <translation>Beim Verbinden von Volumen</translation>
  </message>
  <message>
   <source>they lie too far apart for their voxels</source>
   <translation>für ihre Voxel liegen sie zu weit auseinander</translation>
  </message>
  <message>
   <source>the other one would take more than six thousand million of the first one's voxels</source>
   <translation>das andere bräuchte mehr als sechs Milliarden Voxel des ersten</translation>
  </message>
  <message>
   <source>Give the first one larger voxels.</source>
   <translation>Dem ersten größere Voxel geben.</translation>
  </message>
  <message>
   <source>Resampling a volume</source>
   <translation>Beim Abtasten eines Volumens mit</translation>
  </message>
  <message>
   <source>its box would hold more than 400 million voxels</source>
   <translation>sein Quader hätte mehr als 400 Millionen Voxel</translation>
  </message>
  <message>
   <source>Take larger voxels.</source>
   <translation>Größere Voxel nehmen.</translation>
  </message>
  <message>
   <source>The volumes themselves were kept.</source>
   <translation>Die Volumen selbst blieben.</translation>
  </message>
  <message>
   <source>there is no grid '%1' of numbers in it</source>
   <translation>es ist kein Gitter '%1' aus Zahlen darin</translation>
  </message>
  <message>
   <source>'%1' must hold single numbers and '%2' vectors, both of 32 or 16 bits</source>
   <translation>'%1' muss einzelne Zahlen enthalten und '%2' Vektoren, beide mit 32 oder 16 Bit</translation>
  </message>
  <message>
   <source>Its fastest parts cross %1 voxels while the shutter is open; they are blurred in %2 steps.</source>
   <translation>Seine schnellsten Teile queren %1 Voxel, solange der Verschluss offen ist; sie verwischen in %2 Schritten.</translation>
  </message>
  <message>
   <source>'%1' must hold vectors of 32 or 16 bits</source>
   <translation>'%1' muss Vektoren mit 32 oder 16 Bit enthalten</translation>
  </message>
  <message>
   <source>Placing volume</source>
   <translation>Beim Aufstellen des Volumens</translation>
  </message>
  <message>
   <source>its voxels have no size</source>
   <translation>seine Voxel haben keine Größe</translation>
  </message>
  <message>
   <source>Exporting a volume to</source>
   <translation>Beim Exportieren eines Volumens nach</translation>
  </message>
  <message>
   <source>its voxels must be larger than nothing</source>
   <translation>seine Voxel müssen größer sein als nichts</translation>
  </message>
  <message>
   <source>at voxels of %1 it would have %2 million of them</source>
   <translation>mit Voxeln von %1 hätte es davon %2 Millionen</translation>
  </message>
  <message>
   <source>Choose larger voxels.</source>
   <translation>Größere Voxel wählen.</translation>
  </message>
  <message>
   <source>nothing is to be fitted</source>
   <translation>nichts soll angeglichen werden</translation>
  </message>
  <message>
   <source>Choose the exposure, the neutral point or an element.</source>
   <translation>Belichtung, Neutralpunkt oder ein Element wählen.</translation>
  </message>
  <message>
   <source>fewer than two planes are in both pictures</source>
   <translation>weniger als zwei Ebenen sind in beiden Bildern</translation>
  </message>
  <message>
   <source>Lay the boxes on what stands near, farther and far, and set the borders of the planes.</source>
   <translation>Die Rahmen auf Nahes, Ferneres und Fernes legen und die Grenzen der Ebenen setzen.</translation>
  </message>
  <message>
   <source>Match</source>
   <translation>Beim Angleichen von</translation>
  </message>
  <message>
   <source>the element has no visibility</source>
   <translation>das Element hat keine Sichtweite</translation>
  </message>
  <message>
   <source>Choose one whose density is told by how far one sees in it.</source>
   <translation>Eines wählen, dessen Dichte als Sichtweite gesagt wird.</translation>
  </message>
  <message>
   <source>Reading kept paths</source>
   <translation>Beim Lesen behaltener Pfade</translation>
  </message>
  <message>
   <source>it holds values that are not numbers; delete it to begin anew</source>
   <translation>es enthält Werte, die keine Zahlen sind; zum Neubeginn löschen</translation>
  </message>
  <message>
   <source>Rendering</source>
   <translation>Beim Rendern</translation>
  </message>
  <message>
   <source>lights come or go while the shutter is open</source>
   <translation>Lichter kommen oder gehen bei offenem Verschluss</translation>
  </message>
  <message>
   <source>Key their strength and not whether they are there, or close the shutter.</source>
   <translation>Ihre Stärke mit Keys versehen statt ihres Daseins, oder den Verschluss schließen.</translation>
  </message>
  <message>
   <source>the reference does not know water by its parts</source>
   <translation>die Referenz kennt Wasser nicht nach seinen Teilen</translation>
  </message>
  <message>
   <source>Leave the water's layers out, or use the live integrator.</source>
   <translation>Die Ebenen des Wassers weglassen oder live rendern.</translation>
  </message>
  <message>
   <source>Pasting</source>
   <translation>Beim Einsetzen</translation>
  </message>
  <message>
   <source>the clipboard holds no element of a kind that is known here</source>
   <translation>die Zwischenablage enthält kein Element einer hier bekannten Art</translation>
  </message>
  <message>
   <source>there is nothing to group</source>
   <translation>es gibt nichts zu gruppieren</translation>
  </message>
  <message>
   <source>%1.%2 follows itself, by way of what it follows</source>
   <translation>%1.%2 folgt sich selbst über das, dem es folgt</translation>
  </message>
  <message>
   <source>the clipboard holds no keys</source>
   <translation>die Zwischenablage enthält keine Keys</translation>
  </message>
  <message>
   <source> (units: %1)</source>
   <translation> (Einheiten: %1)</translation>
  </message>
  <message>
   <source>%1 has no parameter '%2'</source>
   <translation>%1 hat keine Einstellung '%2'</translation>
  </message>
  <message>
   <source>Setting</source>
   <translation>Beim Einstellen von</translation>
  </message>
  <message>
   <source>a group has no parameter '%1'</source>
   <translation>eine Gruppe hat keine Einstellung '%1'</translation>
  </message>
  <message>
   <source>It has: muted, soloed.</source>
   <translation>Sie hat: muted, soloed.</translation>
  </message>
  <message>
   <source>'%1' is no frame</source>
   <translation>'%1' ist kein Bild</translation>
  </message>
  <message>
   <source>A key is set as element.parameter@FRAME=VALUE.</source>
   <translation>Ein Key wird als element.parameter@BILD=WERT gesetzt.</translation>
  </message>
  <message>
   <source>%1 cannot change over time</source>
   <translation>%1 kann sich nicht über die Zeit ändern</translation>
  </message>
  <message>
   <source>there is no element '%1' to reach</source>
   <translation>ein Element '%1', das erreicht würde, gibt es nicht</translation>
  </message>
  <message>
   <source>%1 must be greater than 0</source>
   <translation>%1 muss größer als 0 sein</translation>
  </message>
  <message>
   <source>Opening</source>
   <translation>Beim Öffnen von</translation>
  </message>
  <message>
   <source>%1 must be %2, not %3</source>
   <translation>%1 muss %2 sein, nicht %3</translation>
  </message>
  <message>
   <source>three numbers</source>
   <translation>drei Zahlen</translation>
  </message>
  <message>
   <source>two numbers</source>
   <translation>zwei Zahlen</translation>
  </message>
  <message>
   <source>true or false</source>
   <translation>true oder false</translation>
  </message>
  <message>
   <source>a whole number</source>
   <translation>eine ganze Zahl</translation>
  </message>
  <message>
   <source>a number</source>
   <translation>eine Zahl</translation>
  </message>
  <message>
   <source>text</source>
   <translation>Text</translation>
  </message>
  <message>
   <source>a list of points</source>
   <translation>eine Liste von Punkten</translation>
  </message>
  <message>
   <source>a list of colour stops</source>
   <translation>eine Liste von Farbstufen</translation>
  </message>
  <message>
   <source>a list of stops, five numbers each</source>
   <translation>eine Liste von Stufen, je fünf Zahlen</translation>
  </message>
  <message>
   <source>readable</source>
   <translation>lesbar</translation>
  </message>
  <message>
   <source>%1 must be text</source>
   <translation>%1 muss Text sein</translation>
  </message>
  <message>
   <source>group must be text</source>
   <translation>group muss Text sein</translation>
  </message>
  <message>
   <source>%1 must be true or false</source>
   <translation>%1 muss true oder false sein</translation>
  </message>
  <message>
   <source>reach must be an object</source>
   <translation>reach muss ein Objekt sein</translation>
  </message>
  <message>
   <source>reach to %1 must be a number, not %2</source>
   <translation>reach zu %1 muss eine Zahl sein, nicht %2</translation>
  </message>
  <message>
   <source>motion must be an object</source>
   <translation>motion muss ein Objekt sein</translation>
  </message>
  <message>
   <source>settings must be an object</source>
   <translation>settings muss ein Objekt sein</translation>
  </message>
  <message>
   <source>%1 must be a number greater than 0, not %2</source>
   <translation>%1 muss eine Zahl über 0 sein, nicht %2</translation>
  </message>
  <message>
   <source>%1 and %2 say the same thing; keep one</source>
   <translation>%1 und %2 sagen dasselbe; eines behalten</translation>
  </message>
  <message>
   <source>a group must be an object</source>
   <translation>eine Gruppe muss ein Objekt sein</translation>
  </message>
  <message>
   <source>a group's %1 must be text</source>
   <translation>%1 einer Gruppe muss Text sein</translation>
  </message>
  <message>
   <source>a group's %1 must be true or false</source>
   <translation>%1 einer Gruppe muss true oder false sein</translation>
  </message>
  <message>
   <source>a group has no id</source>
   <translation>eine Gruppe hat keine id</translation>
  </message>
  <message>
   <source>it is damaged near line %1 (not valid JSON)</source>
   <translation>es ist nahe Zeile %1 beschädigt (kein gültiges JSON)</translation>
  </message>
  <message>
   <source>it holds a number too large to be one</source>
   <translation>es enthält eine Zahl, die zu groß ist</translation>
  </message>
  <message>
   <source>it is not a Hygros project</source>
   <translation>es ist kein Hygros-Projekt</translation>
  </message>
  <message>
   <source>its version is missing or no whole number</source>
   <translation>seine Version fehlt oder ist keine ganze Zahl</translation>
  </message>
  <message>
   <source>it was saved by a newer Hygros (format version %1; this one reads up to %2)</source>
   <translation>es wurde mit einem neueren Hygros gesichert (Formatversion %1; dieses liest bis %2)</translation>
  </message>
  <message>
   <source>%1 Open it with the newer version.</source>
   <translation>%1 Mit der neueren Version öffnen.</translation>
  </message>
  <message>
   <source>name must be text</source>
   <translation>name muss Text sein</translation>
  </message>
  <message>
   <source>frame must be a whole number within ten million</source>
   <translation>frame muss eine ganze Zahl innerhalb von zehn Millionen sein</translation>
  </message>
  <message>
   <source>groups must be a list</source>
   <translation>groups muss eine Liste sein</translation>
  </message>
  <message>
   <source>the group '%1' is there twice</source>
   <translation>die Gruppe '%1' gibt es zweimal</translation>
  </message>
  <message>
   <source>elements must be a list</source>
   <translation>elements muss eine Liste sein</translation>
  </message>
  <message>
   <source>an element has no kind</source>
   <translation>ein Element hat keine Art</translation>
  </message>
  <message>
   <source>its id is missing or has a dot in it</source>
   <translation>seine id fehlt oder enthält einen Punkt</translation>
  </message>
  <message>
   <source>its id is used twice</source>
   <translation>seine id kommt zweimal vor</translation>
  </message>
  <message>
   <source>there can be only one %1</source>
   <translation>davon kann es nur eines geben: %1</translation>
  </message>
  <message>
   <source>element '%1': %2</source>
   <translation>Element '%1': %2</translation>
  </message>
  <message>
   <source>it has no state</source>
   <translation>es hat keinen Stand</translation>
  </message>
  <message>
   <source>Reading the recipe</source>
   <translation>Beim Lesen des Rezepts</translation>
  </message>
  <message>
   <source>Saving the recipe</source>
   <translation>Beim Sichern des Rezepts</translation>
  </message>
  <message>
   <source>a project has one %1 of its own; a recipe cannot bring another</source>
   <translation>ein Projekt hat davon selbst eines, ein Rezept kann kein zweites bringen: %1</translation>
  </message>
  <message>
   <source>it is damaged (not valid JSON)</source>
   <translation>es ist beschädigt (kein gültiges JSON)</translation>
  </message>
  <message>
   <source>it is not a Hygros recipe</source>
   <translation>es ist kein Hygros-Rezept</translation>
  </message>
  <message>
   <source>its depth must be a number of metres above 0</source>
   <translation>seine Tiefe muss eine Zahl von Metern über 0 sein</translation>
  </message>
  <message>
   <source>how far it stands before the camera must be a number of metres</source>
   <translation>wie weit es vor der Kamera steht, muss eine Zahl von Metern sein</translation>
  </message>
  <message>
   <source>it holds no element of a kind that is known here</source>
   <translation>es enthält kein Element einer hier bekannten Art</translation>
  </message>
  <message>
   <source>there is nothing in it</source>
   <translation>es ist nichts darin</translation>
  </message>
  <message>
   <source>frames must lie within %1 to %2</source>
   <translation>Bilder müssen zwischen %1 und %2 liegen</translation>
  </message>
  <message>
   <source>the last frame (%1) must not come before the first (%2)</source>
   <translation>das letzte Bild (%1) darf nicht vor dem ersten (%2) kommen</translation>
  </message>
  <message>
   <source>frames a second must lie within 1 to 1000</source>
   <translation>Bilder in der Sekunde müssen zwischen 1 und 1000 liegen</translation>
  </message>
  <message>
   <source>the shutter's angle must lie within 0 to 360 degrees</source>
   <translation>der Verschlusswinkel muss zwischen 0 und 360 Grad liegen</translation>
  </message>
  <message>
   <source>the shutter's phase must lie within -360 to 360 degrees</source>
   <translation>die Verschlussphase muss zwischen -360 und 360 Grad liegen</translation>
  </message>
  <message>
   <source>the pre-roll must lie within 0 to 100 000 s</source>
   <translation>der Vorlauf muss zwischen 0 und 100 000 s liegen</translation>
  </message>
  <message>
   <source>the loop must lie within 0 to 100 000 s</source>
   <translation>die Schleife muss zwischen 0 und 100 000 s liegen</translation>
  </message>
  <message>
   <source>%1 must be one of %2</source>
   <translation>%1 muss eines von diesen sein: %2</translation>
  </message>
  <message>
   <source>%1 must be a number</source>
   <translation>%1 muss eine Zahl sein</translation>
  </message>
  <message>
   <source>%1 must be a number or three</source>
   <translation>%1 muss eine Zahl sein oder drei</translation>
  </message>
  <message>
   <source>%1: a key must be an object with frame and value</source>
   <translation>%1: ein Key muss ein Objekt mit frame und value sein</translation>
  </message>
  <message>
   <source>%1: a stir must be an object with kind and amount</source>
   <translation>%1: eine Bewegung muss ein Objekt mit kind und amount sein</translation>
  </message>
  <message>
   <source>%1: a stir's seed must be a whole number</source>
   <translation>%1: die Startzahl einer Bewegung muss eine ganze Zahl sein</translation>
  </message>
  <message>
   <source>%1: what a stir follows must be text</source>
   <translation>%1: dem eine Bewegung folgt, muss Text sein</translation>
  </message>
  <message>
   <source>the motion of %1 must be an object</source>
   <translation>die Bewegung von %1 muss ein Objekt sein</translation>
  </message>
  <message>
   <source>the %1 of %2 must be a list</source>
   <translation>%1 von %2 muss eine Liste sein</translation>
  </message>
  <message>
   <source>%1 has %2 keys; %3 is the most</source>
   <translation>%1 hat %2 Keys; höchstens sind es %3</translation>
  </message>
  <message>
   <source>time must be an object</source>
   <translation>time muss ein Objekt sein</translation>
  </message>
  <message>
   <source>the %1 frame must be a whole number within ten million</source>
   <translation>das Bild %1 muss eine ganze Zahl innerhalb von zehn Millionen sein</translation>
  </message>
  <message>
   <source>framesPerSecond must lie within 1 to 1000</source>
   <translation>framesPerSecond muss zwischen 1 und 1000 liegen</translation>
  </message>
  <message>
   <source>it is muted, rides no plume, or there is no such element</source>
   <translation>es ist stumm, reitet auf keiner Fahne, oder es gibt kein solches Element</translation>
  </message>
  <message>
   <source>there would be more than half a million embers at a time</source>
   <translation>es wären mehr als eine halbe Million Funken auf einmal</translation>
  </message>
  <message>
   <source>Lower their rate or their life.</source>
   <translation>Ihre Rate oder ihr Leben senken.</translation>
  </message>
  <message>
   <source>Reading baked embers</source>
   <translation>Beim Lesen gebackener Funken</translation>
  </message>
  <message>
   <source>Bake them again.</source>
   <translation>Sie noch einmal backen.</translation>
  </message>
  <message>
   <source>they are not what was written</source>
   <translation>sie sind nicht, was geschrieben wurde</translation>
  </message>
  <message>
   <source>one of them is not a number</source>
   <translation>einer davon ist keine Zahl</translation>
  </message>
  <message>
   <source>their count is no number</source>
   <translation>ihre Anzahl ist keine Zahl</translation>
  </message>
  <message>
   <source>it is muted, begins nowhere, or there is no such element</source>
   <translation>es ist stumm, beginnt nirgends, oder es gibt kein solches Element</translation>
  </message>
  <message>
   <source>Say on its card where it begins.</source>
   <translation>Auf seiner Karte sagen, wo es beginnt.</translation>
  </message>
  <message>
   <source>there would be more than twelve million at a time</source>
   <translation>es wären mehr als zwölf Millionen auf einmal</translation>
  </message>
  <message>
   <source>Lower how many begin a second, or how long they live and lie.</source>
   <translation>Senken, wie viele in der Sekunde beginnen oder wie lange sie leben und liegen.</translation>
  </message>
  <message>
   <source>there is no place where they could begin</source>
   <translation>es gibt keinen Ort, an dem sie beginnen könnten</translation>
  </message>
  <message>
   <source>Choose an object that has an area, or a mask that leaves some.</source>
   <translation>Ein Objekt wählen, das Flächen hat, oder eine Maske, die welche lässt.</translation>
  </message>
  <message>
   <source>Reading baked particles</source>
   <translation>Beim Lesen gebackener Teilchen</translation>
  </message>
  <message>
   <source>one of them has no size</source>
   <translation>eines davon hat keine Größe</translation>
  </message>
  <message>
   <source>one that lies is not a number</source>
   <translation>eines, das liegt, ist keine Zahl</translation>
  </message>
  <message>
   <source>Reading a baked gas</source>
   <translation>Beim Lesen eines gebackenen Gases</translation>
  </message>
  <message>
   <source>frame</source>
   <translation>Bild</translation>
  </message>
  <message>
   <source>it holds no grids</source>
   <translation>es enthält keine Gitter</translation>
  </message>
  <message>
   <source>it is damaged (a size in it is none)</source>
   <translation>es ist beschädigt (eine Größe darin ist keine)</translation>
  </message>
  <message>
   <source>it has no grid '%1'</source>
   <translation>es hat kein Gitter '%1'</translation>
  </message>
  <message>
   <source>it does not say its %1</source>
   <translation>es sagt nicht: %1</translation>
  </message>
  <message>
   <source>it does not say its size</source>
   <translation>es sagt seine Größe nicht</translation>
  </message>
  <message>
   <source>its size is no size</source>
   <translation>seine Größe ist keine</translation>
  </message>
  <message>
   <source>it has voxels outside of its box</source>
   <translation>es hat Voxel außerhalb seines Quaders</translation>
  </message>
  <message>
   <source>it is muted, or there is no such element</source>
   <translation>es ist stumm, oder es gibt kein solches Element</translation>
  </message>
  <message>
   <source>An element that is not in the shot cannot be baked.</source>
   <translation>Ein Element, das nicht in der Einstellung ist, lässt sich nicht backen.</translation>
  </message>
  <message>
   <source>at voxels of %1 its box would have %2 million cells</source>
   <translation>mit Voxeln von %1 hätte sein Quader %2 Millionen Zellen</translation>
  </message>
  <message>
   <source>Choose larger voxels or a smaller box.</source>
   <translation>Größere Voxel oder einen kleineren Quader wählen.</translation>
  </message>
  <message>
   <source>its detail changes over time</source>
   <translation>seine Feinheit ändert sich über die Zeit</translation>
  </message>
  <message>
   <source>its box or its voxels change over time</source>
   <translation>sein Quader oder seine Voxel ändern sich über die Zeit</translation>
  </message>
  <message>
   <source>Both must stay as they are from the first frame to the last.</source>
   <translation>Beide müssen vom ersten bis zum letzten Bild bleiben, wie sie sind.</translation>
  </message>
  <message>
   <source>at voxels of %1 its gas needs %2 GB of memory, more than the %3 GB that it may take</source>
   <translation>mit Voxeln von %1 braucht sein Gas %2 GB Speicher, mehr als die %3 GB, die es nehmen darf</translation>
  </message>
  <message>
   <source>Frames up to here are kept. Choose larger voxels or a smaller box.</source>
   <translation>Bilder bis hierher bleiben. Größere Voxel oder einen kleineren Quader wählen.</translation>
  </message>
  <message>
   <source>it is damaged</source>
   <translation>es ist beschädigt</translation>
  </message>
  <message>
   <source>Reading baked tracers</source>
   <translation>Beim Lesen gebackener Leitpunkte</translation>
  </message>
  <message>
   <source>a point is not a number</source>
   <translation>ein Punkt ist keine Zahl</translation>
  </message>
  <message>
   <source>cancelled</source>
   <translation>abgebrochen</translation>
  </message>
  <message>
   <source>there is not enough memory for it, or it is damaged</source>
   <translation>der Speicher reicht nicht, oder es ist beschädigt</translation>
  </message>
  <message>
   <source>a region of one value in it is %1 voxels wide</source>
   <translation>ein Bereich aus einem Wert darin ist %1 Voxel breit</translation>
  </message>
  <message>
   <source>Resample it to larger voxels.</source>
   <translation>Mit größeren Voxeln neu abtasten.</translation>
  </message>
  <message>
   <source>%1 must be a finite number</source>
   <translation>%1 muss eine endliche Zahl sein</translation>
  </message>
  <message>
   <source>%1 must lie within %2, not %3</source>
   <translation>%1 muss in %2 liegen, nicht bei %3</translation>
  </message>
  <message>
   <source>%1 does not understand '%2'</source>
   <translation>%1 versteht '%2' nicht</translation>
  </message>
  <message>
   <source>%1 must be on or off</source>
   <translation>%1 muss on oder off sein</translation>
  </message>
  <message>
   <source>%1 must be a whole number</source>
   <translation>%1 muss eine ganze Zahl sein</translation>
  </message>
  <message>
   <source>%1 must be three numbers</source>
   <translation>%1 muss aus drei Zahlen bestehen</translation>
  </message>
  <message>
   <source>%1 must be at least two points</source>
   <translation>%1 muss aus mindestens zwei Punkten bestehen</translation>
  </message>
  <message>
   <source>%1 must have finite points</source>
   <translation>%1 muss endliche Punkte haben</translation>
  </message>
  <message>
   <source>%1 must rise from point to point</source>
   <translation>%1 muss von Punkt zu Punkt steigen</translation>
  </message>
  <message>
   <source>%1 must be two to eight colours</source>
   <translation>%1 muss aus zwei bis acht Farben bestehen</translation>
  </message>
  <message>
   <source>%1 must have finite numbers from 0 up</source>
   <translation>%1 muss endliche Zahlen ab 0 haben</translation>
  </message>
  <message>
   <source>%1 must have places and opacities from 0 to 1</source>
   <translation>%1 muss Orte und Deckkraft von 0 bis 1 haben</translation>
  </message>
  <message>
   <source>%1 must have places that rise</source>
   <translation>%1 muss steigende Orte haben</translation>
  </message>
  <message>
   <source>%1 must be on or off, not '%2'</source>
   <translation>%1 muss on oder off sein, nicht '%2'</translation>
  </message>
  <message>
   <source>%1 does not understand '%2'%3</source>
   <translation>%1 versteht '%2' nicht%3</translation>
  </message>
  <message>
   <source>%1 needs three numbers</source>
   <translation>%1 braucht drei Zahlen</translation>
  </message>
  <message>
   <source>%1 needs pairs of numbers</source>
   <translation>%1 braucht Zahlenpaare</translation>
  </message>
  <message>
   <source>%1 needs place, colour and opacity for each stop: 0 #dfe6ea 0%; 1 #dfe6ea 90%</source>
   <translation>%1 braucht Ort, Farbe und Deckkraft für jede Stufe: 0 #dfe6ea 0%; 1 #dfe6ea 90%</translation>
  </message>
  <message>
   <source>%1 has a key at no frame that there is</source>
   <translation>%1 hat einen Key bei einem Bild, das es nicht gibt</translation>
  </message>
  <message>
   <source>%1 has two keys at frame %2</source>
   <translation>%1 hat zwei Keys bei Bild %2</translation>
  </message>
  <message>
   <source>%1 has a key with a slope that is no number</source>
   <translation>%1 hat einen Key, dessen Steigung keine Zahl ist</translation>
  </message>
  <message>
   <source>%1 has no numbers that could be stirred</source>
   <translation>%1 hat keine Zahlen, die sich bewegen ließen</translation>
  </message>
  <message>
   <source>%1 has a stir whose amount is no number</source>
   <translation>%1 hat eine Bewegung, deren Maß keine Zahl ist</translation>
  </message>
  <message>
   <source>%1 has a stir with a number out of range</source>
   <translation>%1 hat eine Bewegung mit einer Zahl außerhalb ihres Bereichs</translation>
  </message>
  <message>
   <source>%1 has a stir with a rate under 0, or roughness or width outside 0 to 1</source>
   <translation>%1 hat eine Bewegung mit einer Rate unter 0 oder einer Rauheit oder Breite außerhalb von 0 bis 1</translation>
  </message>
  <message>
   <source>%1 follows '%2', which names no parameter (element.parameter)</source>
   <translation>%1 folgt '%2', das keine Einstellung nennt (element.parameter)</translation>
  </message>
 </context>
</TS>
