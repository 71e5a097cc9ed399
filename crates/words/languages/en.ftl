# What Kachel says in English. Values come with their units; counts choose between [one] and [other]. LENGTH(2, $unit) is a length of
# 2 mm in the design's unit; LOWER($label) is a label within a sentence, for languages that write it small there.
# A message's parts: .why it matters, .hint what to do, .meaning of a measure, .set as undo says it.

list-more = { $first }, { $last }
list-and = { $first } and { $last }
span = { $from } to { $to } { $unit }
just = { $value }
none = none
or-more = { $least } or more
places = { $n ->
    [one] one place
   *[other] { $n } places
}
clockwise = clockwise
anticlockwise = anticlockwise
list-semicolon = { $first }; { $last }
list-so-many-more = { $first }; { $n } more


## Check: what it finds, and what it says where it finds nothing

weight-fault = cannot be printed or used
weight-poor = will look or work poorly
weight-note = worth knowing

rule-failed = Check could not look at { $at }: { $fault }
    .why = What this rule would have found is not in the list. A smaller object can be looked at.

# Laid over the air

looks-at-air = what is laid over the air
looked-overhang = Longest overhang
looked-bridge = Longest bridge
looked-over-air = { $far }, { $height } above the bed
island = { $pieces ->
    [one] One piece begins
   *[other] { $pieces } pieces begin
} in the air, { $height } above the bed
    .why = It is joined to the rest only further up, so its first lines are laid into the air. Let it reach down, or turn the object over.
height-above-bed = height above the bed
overhang = { $by } stick out over the air, at { $places }
    .why = Lines hold about { LENGTH(1.2, $unit) } beyond what is under them, then they hang. Let it reach down to the bed, slope its underside, or give the object supports in the slicer.
sticks-out-by = sticks out by
bridge = Lines have to span { $gap } of air, at { $places }
    .why = Lines sag from about { LENGTH(10, $unit) } on. Turn the object over, put something under it, or give it supports in the slicer.
longest-bridge = longest bridge
reach-down = Let it reach down to the bed
thin-cover = { $layers ->
    [one] One layer lies
   *[other] { $layers } layers lie
} over a hollow, at { $places }; { $least } layers close it
    .why = The first lines over a hollow sag, and the ones on them do not close yet: holes and humps are seen from above.
number-of-layers = layers
thicken-roof = Make the roof { $thick } thick
lower-hollow = Let the hollow end lower
looks-at-floats = bodies that begin in the air
floats = { $n ->
    [one] One body begins
   *[other] { $n } bodies begin
} { $heights } above the bed
    .why = Nothing is under it, so the printer would lay its first lines into the air. Let it begin at { LENGTH(0, $unit) }, put something under it, or give the object supports in the slicer.
put-on-bed = Put it on the bed

# On the bed

looks-at-bed = the size on the printer's bed
looked-bed = Spare on the bed
looked-spare = { $spare } on each side
tight-on-bed = On the bed it has { $spare } to spare on each side
    .why = Skirt, brim and the clips of the bed want some { LENGTH(2, $unit) } on each side. Turn it in the slicer, or make it smaller.
tight-on-bed-unturned = On the bed it has { $spare } to spare; turned by { $turn }° it has { $left }
    .why = { tight-on-bed.why }
tight-on-bed-turned = It fits on the bed when it is turned by { $turn }°, with { $left } to spare
    .why = { tight-on-bed.why }
to-spare = to spare
larger-than-bed = The object is { $object }; the printer builds { $bed }
    .why = It does not fit the printer in one piece.
across-bed = width
down-bed = depth
above-bed = height
make-it-wide = Make it { $width } wide
looks-at-holds = how it holds on the bed
looked-first-layer = First layer
small-foot = { $n ->
    [one] It stands
   *[other] { $n } pieces stand
} up to { $high } high on a foot of { $foot }
    .why = The nozzle may knock it off the bed. A brim of { LENGTH(5, $unit) } holds it: in the workshop, under how it is printed.
height-over-foot = height over a small foot
corners-lift = It is { $long } long and has { $n ->
    [one] one sharp corner; it
   *[other] { $n } sharp corners; they
} may lift from the bed
    .why = Filament shrinks as it cools, and pulls up the corners of large objects. Round them, or print with a brim.
length-of-object = length of the object
round-corners = Round the corners by { $radius }

# Changes and choices at Outline

looks-at-changes = changes of the outline that do not do what they were meant to
switch-it-off = Switch it off
lost-change = A change of the outline has lost its patch
    .why = It stays in the list at Outline, where it can be given another patch; the rest of the list is applied.
moved-on = The picture has moved on under a patch with nodes of its own
    .why = The patch keeps its nodes. To follow the picture, switch 'own nodes' off at Outline.
stay-with-my-nodes = Stay with my nodes
open-line = A drawn line is open: its ends are { $gap } apart
    .why = An open line without a width encloses nothing and makes nothing.
join-its-ends = Join its ends
distance-of-ends = distance of the ends
missing-letter = A text's face does not have: { $letters }
    .why = Their places stay empty. Choose another face for the text at Outline.
nothing-left = A change of the outline leaves nothing of its patches
    .why = It stays in the list at Outline; the rest of the list is applied.
looks-at-choices = choices that have lost their patch
was-edge = edge
was-detail = detail
was-both = edge and detail
was-opening = cut through
was-aside = put aside
lost-patch = A patch chosen as '{ $was }' at { $x }, { $y } px is no longer in the picture
    .why = The threshold or the picture has changed. The choice is kept in case the patch comes back.
forget-it = Forget it
looks-at-letters = which way written text reads
looked-text = Written text reads
looked-text-right = as it was written
looked-text-backwards = backwards, in { $n ->
    [one] one patch
   *[other] { $n } patches
}
backwards = Text reads backwards on the object, in { $n ->
    [one] one patch
   *[other] { $n } patches
}
    .why = It was written the right way and turned over later, by a mirror or a flip.
backwards-in-print = Text reads backwards in the print, in { $n ->
    [one] one patch
   *[other] { $n } patches
}
    .why = { backwards.why }
backwards-on-cookie = Text reads backwards on the cookie, in { $n ->
    [one] one patch
   *[other] { $n } patches
}
    .why = { backwards.why }
backward-patches = patches that read backwards
turn-over = Turn it over, where it is

# Cutters and dough

looks-at-cookies = how many cookies it cuts
looked-cuts = Cuts
looked-cookies = { $n ->
    [one] one cookie
   *[other] { $n } cookies
}
several-cookies = It cuts { $n } separate cookies
    .why = Each outer contour of the edge cuts one of its own. A wider margin joins them to one; or put patches aside.
unite-them = Unite them by the smallest margin
join-by-margin = Join them by a margin of { $margin }
number-of-cookies = cookies
looks-at-dough = what tears and what sticks in the dough
widen-cookie = Widen the cookie by a margin of { $margin }
looked-neck = Narrowest part of the cookie
narrow-neck = The cookie is { $wide } wide, at { $places }; dough narrower than { $least } tears
    .why = Legs, tails and necks break off when the cookie is lifted. Widen the cookie, or thicken them at Outline.
narrowest-neck = narrowest part of the cookie
looked-slit = Narrowest slit between walls
narrow-slit = Two walls are { $wide } apart, at { $places }; dough sticks in less than { $least }
    .why = The strip of dough between them stays in the cutter. Close the slit, or open it wider, at Outline.
narrowest-slit = narrowest slit
looks-at-flange = the flange that the hand presses
looked-foot = Foot under the hand
looked-foot-wide = { $wide } wide
looked-foot-backed = { $wide } wide, backed
narrow-flange = The hand presses on a foot of { $foot }; { $good } are comfortable
    .why = A narrow foot cuts into the hand, and stiffens the wall less.
width-of-foot = width of the foot
widen-flange = Let the flange reach { $to } out
sharp-flange = The flange's upper edge is bevelled by { $bevel }; { $good } take its sharpness
    .why = A square edge of filament is sharp where fingers hold the cutter.
bevel = bevel
bevel-it = Bevel it by { $by }
opening-inside = Let it lie { $by } inside the wall
opening-near-wall = An opening comes within { $by } of the wall; { $least } carry it
    .why = What is left of the back beside the wall bends when the cutter is pressed, and the wall comes off it.
openings-near-wall = { $what } ({ $n ->
    [one] one opening
   *[other] { $n } openings
})
    .why = { opening-near-wall.why }
opening-to-wall = between opening and wall
put-aside = { $n ->
    [one] Put it aside
   *[other] Put all { $n } aside
}
looks-at-heights = the heights of wall, flange and stamp lines
flange-too-high = The flange is { $flange } high, the wall { $wall }
    .why = The flange meets the dough before the wall has cut through it.
height-of-flange = height of the flange
lower-flange = Make the flange { $high } high
stamp-vanishes = Stamp lines { $under } under a wall of { $wall } have no height
    .why = They are left out of the object.
stamp-too-high = Stamp lines end { $under } under the wall's top
    .why = Lines as high as the wall cut through the dough instead of marking it.
distance-under-wall = distance under the wall's top
end-under-wall = Let them end { $by } under the wall
looks-at-walls = the thickness of the wall
thin-wall = The wall is { $thick } thick; { $least } is the least that stands up
    .why = A single line of filament bends and splits between layers.
make-it-two-lines = Make it { $to }, two lines
wall-thicker-than-shape = The wall is { $thick } thick, thicker than the shape it cuts is anywhere
    .why = What is left inside is too narrow for dough. Make the object larger, the margin wider or the wall thinner.
thickness-of-wall = thickness of the wall

# Pieces

looks-at-loose = pieces that are loose or only touch
several-pieces = The object comes in { $n } pieces
    .why = They print side by side but do not hold together. Put patches aside, or raise the margin until they join.
number-of-pieces = pieces
touching-pieces = Pieces touch only in a point or a line, at { $places }
    .why = A touch holds nothing, so it was opened by a few thousandths of a millimetre. At Outline, bridge it or join the patches.
number-of-touches = touches
loose-line = A stamp line of { $size } is loose
    .why = Nothing holds such a line to the wall or the flange: it comes off the bed alone.
loose-lines = { $n } stamp lines are loose
    .why = { loose-line.why }
loose-stamp-lines = loose stamp lines
find-bars-again = Find bars again
tie-with-bars = Tie them with bars

# Thin places and finishes

looks-at-thin = the thinnest places and the narrowest gaps
looked-thinnest = Thinnest place
looked-thinnest-at = { $wide }, at '{ $tier }'
least-width = least width
narrow-gap = A sunk line is { $wide } wide, at { $places }; a line of the nozzle is { $line }
    .why = The lines on both sides run together there, and it closes up. Make the object larger, or widen it at Outline.
thin-tip = '{ $tier }' ends { $wide } thin, at { $places }; a line of the nozzle is { $line }
    .why = What is thinner than a line is left out or becomes ragged: the tip breaks off. Let it taper less.
one-line = '{ $tier }' is { $wide } thin, at { $places }: one line of filament
    .why = Its plate holds it, but it is less even than wider ones. From { LENGTH(0.75, $unit) } on it is made of two lines.
thin-place = '{ $tier }' is { $wide } thin, at { $places }; { $least } is the least that holds
    .why = A nozzle of { LENGTH(0.4, $unit) } makes it of one weak line, or leaves it out. Thicken it, or make the object larger.
taper-less = Let it go { $by } in
make-all-larger = Make all { $percent } % larger
fit-inside = Fit the drawing inside
widen-ring = Make the ring { $to } wide
widen-lines = Make the lines { $to } wide
thicken-thin = Thicken what is thin to { $to }
looks-at-finishes = finishes wider than the shape they are on
finish-too-wide = The finish of '{ $tier }' goes { $inset } in, more than the shape has at { $places }: it ends in a ridge { $ridge } high instead of { $high }
    .why = The mesh is sound and prints; only that place is lower.
height-of-ridge = height of the ridge

# Heights and filaments

looks-at-layering = heights and layers
looked-heights = Heights
looked-off-layers = { $n } between layers, by up to { $by }
looked-on-layers = multiples of { $layer }
ends-between-layers = '{ $tier }' ends at { $at } and is printed to { $printed }
between-layers = { $n ->
    [one] A height is
   *[other] { $n } heights are
} no multiple of the layer of { $layer }: { $heights }
    .why = A printer lays whole layers, so what is a few layers high comes out a good deal higher or lower than it was asked for.
off-layer-by = off a layer by
to-layers = { $n ->
    [one] Make it a multiple
   *[other] Make them multiples
}
looks-at-low-tiers = tiers lower than a printed layer
under-a-layer = { $tier } is { $high } high; a printed layer is { $layer }
    .why = The slicer leaves it out or makes it a whole layer.
height-of-tier = height of the tier
looks-at-shows = light filament over dark
shows-through = '{ $tier }' is { $thick } of light filament over '{ $under }', which is dark; { $hides } hide it
    .why = Thin light layers let the dark under them through, and look grey. Make them thicker, or print them in a darker filament.
light-over-dark = light filament over dark
looked-light-over-dark = Light filament over dark
make-it-thick = Make it { $thick } thick
looks-at-filaments = filaments and their changes
filament-gone = The filament '{ $name }' is no longer in the workshop
    .why = What was to be printed in it is shown and weighed as the usual filament.
use-usual-filament = Use the usual filament
colours-in-one-layer = { $n } filaments lie side by side in one layer; '{ $printer }' loads one
    .why = Changing by hand works from layer to layer only. Print it in one filament, give each colour heights of its own, or choose a printer that loads more.
more-filaments-than-loaded = The object has { $n } filaments; '{ $printer }' loads { $loads }
    .why = Print it in fewer filaments, or change one of them by hand.
number-of-filaments = filaments

# Cups and hooks

looks-at-cup = whether a cup stands on it
looked-cup = A cup on it
looked-cup-small = smaller than a usual cup's foot: nothing to look at
looked-cup-steady = steady, with a foot of { $feet }
looked-cup-rocks = rocks, with a foot of { $feet }
cup-rocks = A cup with a foot of { $feet } rocks on it
    .why = Its foot lies on the highest places only, and those do not reach round its middle. Engrave the drawing, or give the plate a rim as high.
foot-of-cup = foot of the cup
engrave-drawing = Engrave the drawing
raise-rim = Make the rim { $high } high, as the drawing is
looks-at-hangs = how it hangs
looked-hangs = Hangs
looked-straight = straight
looked-turned = turned { $turn }° { $way }
hangs-askew = It hangs turned by { $turn }° { $way }
    .why = The middle of its weight comes to hang under the hole. Put the hole over it.
turned-by = turned by
hole-over-weight = Put the hole over the middle of its weight

# The picture and the file

looks-at-picture = how the picture was read
follows-what-was-read = The object follows what was read.
runs-out = Ink runs out of the picture over its { $borders } { $n ->
    [one] border
   *[other] borders
}
    .why = What lies beyond is missing. Take a picture that shows all of it, crop closer, or complete it at Outline.
border-left = left
border-right = right
border-upper = upper
border-lower = lower
along-border = along the border
looks-at-credits = the picture's credit and licence
not-for-sale = The licence '{ $licence }' allows no selling
    .why = You may make it for yourself or as a gift. To sell it, ask the picture's maker, and note the permission with the credit.
credit-of-another = The credit was entered for '{ $earlier }', which is no longer the picture
    .why = It goes into every file that is taken home. Say whose picture it is now.
credit-is-right = It is right for this one, too
empty-credit = Empty it
looks-at-heavy = how heavy the file is
looked-mesh = Drawing and mesh
looked-heavy = { $nodes } nodes, { $triangles } triangles, { $mb } MB as STL
heavy = The file is heavy: { $nodes } nodes make { $triangles } triangles, { $mb } MB as STL; { $good } are handled well
    .why = It prints the same, but slicers take long to open, turn and cut it. Follow the picture more coarsely, put fine details aside, or take out what is mere grain.
follow-coarser = Follow the picture within { $px } px
number-of-triangles = triangles
number-of-nodes = nodes

# What the recipe could not make as asked

looks-at-recipe = what the recipe could not make as asked
why-no-height = It is left out of the object.
why-too-deep = What is meant to be a floor becomes a hole.
why-no-room = It is made as far as it fits, or left out.
why-sealed-gap = The gap is missing in what is cut.
why-cut-off = What lies outside is not made.
why-breaks-out = Too little is left round it to hold.
why-too-long = It prints, but is unhandy.
why-lost-patch = The tier is made of what is left of its footprint.


## In use: what an object does on the table

use-cookie = The cookie it cuts
    .leaves-out = Dough is taken to be flat and stiff: it does not stick, stretch, or rise in the oven. Edges of lines are upright.
cuts-cookies = { $n ->
    [one] One cookie, { $size }.
   *[other] { $n } separate cookies, in all { $size }.
}
lines-through-dough = Lines go through the dough.
lines-sink = Lines sink { $by } into dough of { $dough }.
lines-miss-dough = Lines do not reach dough of { $dough }.
cookie-neck = Its narrowest part is { $wide } wide: dough tears under { $least }.
flange-presses = The wall stands { $free } free, so the flange presses on the dough before it is cut.
use-hanging = How it hangs
    .leaves-out = It hangs from a smooth nail and comes to rest: there is no ring, ribbon or wind. It weighs as if filled solid, and all filaments weigh alike.
hangs-upright = upright
hangs-by-right-side = by its right side
hangs-upside-down = upside down
hangs-by-left-side = by its left side
hangs-straight = It hangs straight, { $side }, { $mass } g in all.
hangs-turned = It hangs { $side }, turned by { $turn }° { $way }, { $mass } g in all.
use-light = In raking light
    .leaves-out = The light is white and comes from one side; filament is taken to be matt, and printed lines are not drawn.
throws-shadow = Light from { $degrees }° above the table: a step of { $step } throws a shadow of { $shadow }.
throws-no-shadow = Light from { $degrees }° above the table: nothing stands out of it, so nothing throws a shadow.
use-print = What it prints on paper
    .leaves-out = Ink is taken to lie evenly on the uppermost layer: none is squeezed out, and the hand presses straight.
prints-marks = Prints { $size } in { $n ->
    [one] one mark
   *[other] { $n } separate marks
}; ink covers { $percent } % of that.
use-steel = On a steel sheet
    .leaves-out = Friction of 0.2 is taken (common practice); the magnets' own weight is left out, and what yours pull is on their packet.
has-no-magnet = It weighs { $mass } g. So that it does not slide, it has to be pulled on with { $pull } N; it has no pocket for a magnet.
has-a-magnet = It weighs { $mass } g. So that it does not slide, it has to be pulled on with { $pull } N.
has-magnets = It weighs { $mass } g. So that it does not slide, it has to be pulled on with { $pull } N, { $each } N by each of its { $n } magnets.
skin-takes-pull = Between magnet and steel lie { $skin } of filament, which takes much of the pull.
use-cup = A cup on it
    .leaves-out = The cup is round and its foot is a flat ring; marked is what holds it. A cup that rocks is tipped to where its foot touches again; what else may be in its way is left out.
cup-none = With { $across } across it is smaller than the foot of a usual cup.
cup-steady = A cup stands steady on it, with a foot of { $feet }.
cup-always-rocks = A cup rocks on it, with a foot of { $feet }.
cup-some-rock = A cup with a foot of { $rocks } rocks on it; with { $steady } it stands steady.
cup-at-steady = A cup with a foot of { $foot } stands steady { $at }.
cup-at-rocks = A cup with a foot of { $foot } rocks { $at }.
in-the-middle = in the middle
from-the-middle = { $by } from the middle
by-right = { $by } right
by-left = { $by } left
by-up = { $by } up
by-down = { $by } down


## Recipes and their measures

recipe-cutter = Cutter
    .meaning = A wall that cuts along the edge, on a flange that the hand presses.
    .bed = Prints flange down, wall up, without supports.
recipe-cutter-stamp = Cutter with stamp
    .meaning = The same with the details as lines that mark the dough, tied to the flange.
    .bed = Prints flange down, wall up, without supports.
recipe-stamp = Stamp
    .meaning = A plate with the details raised or sunk, mirrored so that the print reads right.
    .bed = Prints plate down, relief up, without supports; the grip stands beside it.
recipe-coaster = Coaster
    .meaning = A plate for a cup, with the drawing raised, engraved, cut through or inlaid.
    .bed = Prints underside down, without supports.
recipe-ornament = Ornament
    .meaning = A flat shape that hangs straight, by a hole or an eyelet above its centre of mass.
    .bed = Prints back down, without supports.
recipe-magnet = Magnet
    .meaning = A body with round pockets for disc magnets.
    .bed = Prints back down, without supports; the pockets' roofs are short bridges.
recipe-key-tag = Key tag
    .meaning = A backing round the drawing with a hole for a ring.
    .bed = Prints back down, without supports.
recipe-token = Token
    .meaning = A coin, counter or medallion.
    .bed = Prints back down, without supports.
recipe-pendant = Pendant
    .meaning = What is drawn, as lines tied to each other, in a ring, on a loop.
    .bed = Prints flat, without supports.
recipe-plaque = Plaque
    .meaning = A plate with lettering, a frame and holes for screws.
    .bed = Prints back down, without supports.
recipe-free-stack = Free stack
    .meaning = Only tiers of your own.
    .bed = Prints as it is stacked; whether it needs supports is up to you.

part-wall = Wall
part-flange = Flange
part-stamp-lines = Stamp lines
part-edge = Edge
part-place = Place
part-fine-parts = Fine parts
part-plate = Plate
part-details = Details
part-body = Body
part-hole = Hole
part-backing = Backing
part-lines = Lines
part-ring = Ring
part-loop = Loop
part-pockets = Pockets
part-lettering = Lettering
part-frame = Frame
part-screws = Screws
part-relief = Relief
part-grip = Grip
part-top = Top
part-below = Below
part-tie-bars = Tie bars

measure-wall-thickness = Thickness
    .meaning = How thick the wall is, outwards from the edge
    .set = { $part } { $value } thick
measure-wall-height = Height
    .meaning = Height of the wall's top above the bed, flange included
    .set = { $part } { $value } high
measure-taper-in = Taper in
    .meaning = How much thinner the wall is at its tip; its inner face stays upright
measure-taper-down = Taper down
    .meaning = Over how much of its height, from the tip
measure-soft-corners = Softened corners
    .meaning = Radius that sharp corners of the edge get
measure-flange-width = Width
    .meaning = How far the flange reaches out from the wall's outer face; 0 leaves it away
    .set = { $part } { $value } wide
measure-flange-in = Inwards
    .meaning = How far it reaches in from the edge
measure-flange-height = Height
    .meaning = Height of the flange's upper side above the bed
    .set = { $part } { $value } high
measure-flange-edge = Softened edge
    .meaning = Bevel of its upper outer edge
measure-flange-dents = Fill dents
    .meaning = How far into a dent of its outer edge filament reaches from both sides: dents up to twice as wide are filled
measure-back = Inside
    .meaning = Open right through, or closed at the back but for an opening to push the dough out
measure-opening = Opening in by
    .meaning = How far inside the edge the opening of a backed cutter lies
measure-stamp-under-wall = Under the wall
    .meaning = How much lower than the wall's top the stamp lines end
measure-stamp-as = Details as
    .meaning = As the areas they are, or as a line along their contours
measure-stamp-line = Line width
    .meaning = Width of a line along a contour
measure-stamp-least = Thinnest line
    .meaning = Areas thinner than this are thickened to it; 0 leaves them as they are
measure-margin = Margin
    .meaning = How far the edge lies outside the drawing
measure-place = Drawing at
    .meaning = What of the drawing lies in the plate's middle
measure-shift-x = To the right
    .meaning = How far the drawing is moved to the right from there
measure-shift-y = Up
    .meaning = How far the drawing is moved up from there
measure-turn = Turned by
    .meaning = How far the drawing is turned to the left about the plate's middle
measure-from-rim = From the rim
    .meaning = How far from the rim a drawing stays that is fitted inside
measure-crumbs = Crumbs
    .meaning = What becomes of pieces and holes smaller than a nozzle of { LENGTH(0.4, $unit) } prints
measure-corners = Corners
    .meaning = Whether all corners are as round
measure-hole-at = Placed
    .meaning = From where its place is measured
measure-hole-x = Right of the middle
    .meaning = How far its middle lies to the right of the middle of the object
measure-hole-y = Above the middle
    .meaning = How far its middle lies above the middle of the object
measure-hole-along = Along the edge
    .meaning = How far along the edge it is moved, clockwise; less than 0 goes the other way
measure-hole-out = Further out
    .meaning = How much further outside the edge it lies than usual; less than 0 lies further inside
measure-form = Form
    .meaning = The form of the plate
measure-across = Across
    .meaning = Across a disc, a square or the flats of a hexagon
    .set = { $part } { $value } across
measure-border = Border
    .meaning = How far a plate of the outline's own form reaches beyond it
measure-thickness = Thickness
    .meaning = Height of the plate
    .set = { $part } { $value } thick
measure-soft-edge = Softened edge
    .meaning = Radius of its upper edge
measure-relief = Details
    .meaning = How the drawing lies on the plate
    .set = { $part } { LOWER($value) }
measure-relief-depth = Depth or height
    .meaning = How deep the drawing goes, or how far it stands out
measure-rim-height = Height
    .meaning = How far the border stands out of the plate
    .set = { $part } { $value } high
measure-corner-hexagon = Corner radius
    .meaning = Radius of a hexagon's corners
measure-border-of-ornament = Border
    .meaning = How far the body reaches beyond the drawing
measure-thickness-of-ornament = Thickness
    .meaning = Height of the body
    .set = { $part } { $value } thick
measure-hang = Hangs by
    .meaning = An eyelet outside the edge, or a hole inside it
measure-hole = Across
    .meaning = Across the hole
    .set = { $part } { $value } across
measure-relief-of-ornament = Details
    .meaning = How details lie on the body
    .set = { $part } { LOWER($value) }
measure-relief-height = Height or depth
    .meaning = How far they stand out, or how deep they go
measure-border-of-key-tag = Border
    .meaning = How far the backing reaches beyond the drawing
measure-thickness-of-key-tag = Thickness
    .meaning = Height of the backing
    .set = { $part } { $value } thick
measure-hole-of-key-tag = Across
    .meaning = Across the hole for the ring
    .set = { $part } { $value } across
measure-side = Where
    .meaning = On which side of the tag
measure-relief-of-key-tag = Details
    .meaning = How the drawing lies on the backing
    .set = { $part } { LOWER($value) }
measure-relief-height-of-key-tag = Height or depth
    .meaning = How far it stands out, or how deep it goes
measure-rim-height-of-key-tag = Height
    .meaning = How far the border stands out
    .set = { $part } { $value } high
measure-longest = At most
    .meaning = Longest side that still goes into a pocket
measure-thickness-of-pendant = Thickness
    .meaning = Height of the lines
    .set = { $part } { $value } thick
measure-grow = Wider by
    .meaning = How much wider than drawn the lines are, on each side
measure-line-least = Thinnest line
    .meaning = What is thinner is widened to this: two lines of a nozzle of { LENGTH(0.4, $unit) } hold. 0 leaves it as it is drawn
measure-soft-edge-of-pendant = Softened edge
    .meaning = Radius of their upper edge
measure-ring-width = Width
    .meaning = Width of the ring round it all; 0 leaves it away
    .set = { $part } { $value } wide
measure-ring-gap = Gap
    .meaning = How far the ring stays away from the drawing; bars bridge it
measure-loop = Hole across
    .meaning = Across the hole of the loop
measure-loop-round = Filament round it
    .meaning = How much filament is round that hole
measure-border-of-magnet = Border
    .meaning = How far the body reaches beyond the drawing
measure-thickness-of-magnet = Thickness
    .meaning = Height of the body
    .set = { $part } { $value } thick
measure-relief-height-of-magnet = Height
    .meaning = How far details stand out of the body
    .set = { $part } { $value } high
measure-magnet = Magnet
    .meaning = Size of the disc magnet: across and high
measure-magnet-across = Across
    .meaning = Across the magnet, where the size is 'Other'
    .set = { $part } { $value } across
measure-magnet-high = High
    .meaning = How high the magnet is, where the size is 'Other'
measure-clearance = Clearance
    .meaning = Air round the magnet and above it
measure-pockets = How many
    .meaning = Pockets, each where the body is roomiest
measure-pocket = Pocket
    .meaning = Open at the back, to glue the magnet in, or closed in: the print pauses and the magnet goes in
measure-pocket-x = Moved across
    .meaning = How far the first pocket is moved to the right of its place; with 'Moved up', by hand
measure-pocket-y = Moved up
    .meaning = How far the first pocket is moved up from its place
measure-border-of-plaque = Border
    .meaning = How far the plate reaches beyond the drawing
measure-relief-of-plaque = Details
    .meaning = How lettering and drawing lie on the plate
measure-relief-height-of-plaque = Height or depth
    .meaning = How far they stand out of the plate, or how deep they go
measure-frame-width = Width
    .meaning = Width of a raised frame; 0 leaves it away
    .set = { $part } { $value } wide
measure-frame-height = Height
    .meaning = How far the frame stands out of the plate
    .set = { $part } { $value } high
measure-screws = Holes
    .meaning = Holes for screws
measure-screw = Across
    .meaning = Across a hole
    .set = { $part } { $value } across
measure-sink = Countersunk by
    .meaning = How much wider the hole is at the top, for the screw's head
measure-plate = Form
    .meaning = The outline grown, or a form round it
measure-border-of-stamp = Border
    .meaning = How far the plate reaches beyond the outline
measure-clearance-of-stamp = Clearance
    .meaning = Air all round, so that it slides inside a cutter of the same outline; 0 for a stamp of its own
measure-plate-height = Height
    .meaning = Height of the plate
    .set = { $part } { $value } high
measure-plate-edge = Softened edge
    .meaning = Radius of its upper edge
measure-relief-of-stamp = Details
    .meaning = Raised: they mark the dough; sunk: they stand out of it
measure-relief-height-of-stamp = Height or depth
    .meaning = How far the details stand out of the plate, or go into it
measure-grip = Form
    .meaning = A second piece that plugs into the plate's back
measure-grip-height = Height
    .meaning = How high the grip is
    .set = { $part } { $value } high
measure-grip-width = Width
    .meaning = Across the knob, or how thick the bar is
    .set = { $part } { $value } wide
measure-peg-clearance = Clearance
    .meaning = Air round the peg in its socket
measure-form-of-token = Form
    .meaning = A disc round the drawing, or the outline's own form
measure-across-of-token = Across
    .meaning = Across the disc
    .set = { $part } { $value } across
measure-border-of-token = Border
    .meaning = How far a body of the outline's own form reaches beyond it
measure-thickness-of-token = Thickness
    .meaning = Height of the body
    .set = { $part } { $value } thick
measure-soft-edge-of-token = Softened edge
    .meaning = Bevel of both its edges
measure-relief-of-token = Details
    .meaning = How the drawing lies on top
measure-relief-height-of-token = Height or depth
    .meaning = How far the drawing stands out, or how deep it goes
measure-back-of-token = Details
    .meaning = The drawing again on the underside, to be read from there
measure-back-depth = Depth
    .meaning = How deep it goes
    .set = { $part } { $value } deep
measure-bar-width = Width
    .meaning = Width of the bars that hold loose pieces; 0 leaves them away
    .set = { $part } { $value } wide
measure-bars = For each piece
    .meaning = How many bars at least hold each loose piece; 0 gives large rings two and others one
choice-back-open = Open right through
choice-back-backed = Closed at the back
choice-stamp-as-areas = Areas
choice-stamp-as-lines = Lines
choice-pieces-united = United
choice-pieces-apart = Apart
choice-crumbs-gone = Left out
choice-crumbs-kept = Kept
choice-outside-told = Cut and report
choice-outside-cut = Cut off
choice-outside-grown = Edge grows
choice-place-own = Own place
choice-place-box = Middle of its box
choice-place-circle = Middle of its circle
choice-relief-raised = Raised
choice-relief-engraved = Engraved
choice-relief-cut = Cut through
choice-relief-inlaid = Inlaid
choice-relief-nothing = Nothing on top
choice-stamp-relief-raised = Raised
choice-stamp-relief-sunk = Sunk
choice-stamp-plate-outline = Outline
choice-stamp-plate-disc = Disc
choice-stamp-plate-rectangle = Rectangle
choice-grip-none = None
choice-grip-knob = Knob
choice-grip-bar = Bar
choice-hang-eyelet = Eyelet
choice-hang-hole = Hole
choice-hang-none = Nothing
choice-hole-at-own = By itself
choice-hole-at-middle = From the middle
choice-hole-at-edge = Along the edge
choice-tag-side-top = Top
choice-tag-side-left = Left
choice-tag-side-right = Right
choice-coaster-form-disc = Disc
choice-coaster-form-square = Square
choice-coaster-form-hexagon = Hexagon
choice-coaster-form-outline = Outline
choice-corners-alike = All alike
choice-corners-own = Each its own
choice-magnet-size-6x2 = 6 × 2 mm
choice-magnet-size-8x3 = 8 × 3 mm
choice-magnet-size-10x2 = 10 × 2 mm
choice-magnet-size-12x3 = 12 × 3 mm
choice-magnet-size-free = Other
choice-pocket-open = Open below
choice-pocket-closed = Closed in
choice-token-form-disc = Disc
choice-token-form-outline = Outline
choice-token-back-none = None
choice-token-back-engraved = Engraved
choice-token-back-inlaid = Inlaid
choice-plaque-form-rounded = Rounded
choice-plaque-form-rectangle = Rectangle
choice-plaque-form-oval = Oval
choice-plaque-form-round-ends = Round ends
choice-plaque-form-outline = Outline
choice-screws-none = None
choice-screws-two = Two
choice-screws-four = Four

part-rim = Rim
measure-set = { $part }: { LOWER($label) } { $value }
degrees = { $n }°
measure-pieces = Loose pieces
    .meaning = What becomes of pieces of the edge that do not hang together
measure-outside = Over the edge
    .meaning = What becomes of details that reach over the edge
measure-corner = Corner radius
    .meaning = Radius of a rounded plate's corners
measure-corner-upper-left = Upper left
    .meaning = Radius of this corner
measure-corner-upper-right = Upper right
    .meaning = { measure-corner-upper-left.meaning }
measure-corner-lower-left = Lower left
    .meaning = { measure-corner-upper-left.meaning }
measure-corner-lower-right = Lower right
    .meaning = { measure-corner-upper-left.meaning }
measure-rim-width = Width
    .meaning = Width of a raised border; 0 leaves it away
    .set = { $part } { $value } wide
measure-hole-round = Filament round it
    .meaning = How much filament is left round the hole

no-measure = There is no measure '{ $name }' here; there are { $known }
    .hint = Choose one of those named.
measure-out-of-range = { $part } { LOWER($label) }: { $value } is outside { $min } to { $max }
    .hint = Type a value in the range.
no-length = Type a length, such as 3 mm or 1/8 in
    .hint = Type a number with a unit, or without.
not-a-length = '{ $text }' is not a length; type one such as 3 mm, 2,5 or 1/8 in
    .hint = { no-length.hint }
not-among = '{ $text }' cannot be chosen here; there are { $known }
    .hint = { no-length.hint }
unknown-unit = '{ $typed }' is not a unit of length here; mm, cm and in are
    .hint = { no-length.hint }


## Tiers: what they are called, and what a recipe says of them

tier-flange = Flange
tier-wall = Wall
tier-stamp = Stamp lines
tier-body = Body
tier-detail = Details
tier-rim = Rim
tier-bar = Tie bars
tier-loop = Loop
tier-grip = Grip
tier-room = Opening
tier-own = Own tier
tier-plate = Plate
tier-backing = Backing
tier-frame = Frame
tier-details = Details
tier-below = Details below
tier-screws = Screw holes
tier-pockets = Pockets
tier-hole = Hole
tier-socket = Socket
tier-openings = Openings

pieces-united = The { $n } loose pieces of the edge are united by a margin of { $margin }.
crumbs = { $n ->
    [one] 1 crumb
   *[other] { $n } crumbs
}
tiny-holes = { $n ->
    [one] 1 tiny hole
   *[other] { $n } tiny holes
}
crumbs-left-out = { $what } smaller than a nozzle prints: left out.
all-cut-off = All of the drawing reaches over the edge: { $area } are cut off
part-cut-off = A part of the drawing reaches over the edge: { $area } are cut off
grow-edge-round-it = Grow the edge round it
cut-it-off = Cut it off
put-patches-aside = { $n ->
    [one] Put it aside
   *[other] Put { $n } patches aside
}
pocket-too-high = A pocket { $high } high from { $from } on goes through the top of a body of { $body }
thicken-body = Make the body { $to } thick
no-room-for-pockets = There is room for { $n } of { $of } pockets of { $across } with { $round } round them
as-many-as-fit = Make as many as there is room for
pocket-near-edge = The pocket that was moved comes too close to the edge
move-it-back = Move it back
details-too-deep = Details { $deep } deep go through a plate of { $plate }
make-them-deep = Make them { $to } deep
plate-across = Make the plate { $to } across
no-room-for-socket = A plate of { $plate } leaves no room for the socket of a grip
plate-high = Make the plate { $to } high
nowhere-for-socket = The plate is nowhere wide enough for a socket of { $across }
tier-lost-patches = '{ $tier }' has lost { $n } of its patches
tier-lost-tier = '{ $tier }' has lost the recipe's tier it stands on
tier-without-area = '{ $tier }' has no area
tier-without-height = '{ $tier }' has no height
tag-too-long = The tag is { $long } long; at most { $most } go into a pocket
make-it-long = Make it { $to } long
pendant-without-lines = There are no lines to make a pendant of
details-below-too-deep = Details { $deep } deep below go through a body of { $body }
screw-hole-breaks-out = A screw hole of { $across } with its sink breaks out of the plate
screw-hole-under-lettering = A screw hole lies under the lettering
widen-border = Give the plate a border of { $to }
soften-less = Soften them by { $by }, which leaves it open
gap-sealed = Softened corners of { $radius } close a gap of the edge: { $area } behind it are filled, or dough would stay there
no-room-for-opening = The opening lies { $by } inside the edge, where nothing is left
make-it = Make it { $to }
tier-height-range = Heights can be { $range }
tier-upside-down = The top ({ $top }) has to lie above the bottom ({ $bottom })
tier-growth-range = A footprint can be grown, shrunk or rimmed by { $range }
tier-finish-range = A finish can go { $inset } in and { $depth } down
tier-name-length = A tier's name has 1 to 60 characters


## Why there is no result: .hint says what to do

object-too-large = The object grows too large: { $why }
    .hint = Make the object, its margin or its flange smaller.
no-tiers = The stack has no tiers yet
    .hint = Add one at Stack, or choose another recipe.
off-grid = { $length } is outside the { $most } that can be built on each side of the middle
stopped = Stopped
    .hint = Start it again.
stage-waiting = Waiting for its turn
stage-artwork = Reading the picture
stage-trace = Tracing contours
stage-outline = Sizing the outline
stage-tiers = Laying out tiers
stage-solid = Building the solid
stage-check = Checking

no-edge = No patch shapes the edge
    .hint = At Outline, draw the edge or add a shape, or give at least one patch the use 'edge'.
edge-gone = Nothing is left to shape the edge after '{ $change }'
    .hint = Undo it; or, at Outline, change that entry of the list, switch it off or take it out.
edge-too-wide = The edge would be { $value } wide; it can be { $min } to { $max }
    .hint = At Outline, set a width or height in the range.
edge-too-high = The edge would be { $value } high; it can be { $min } to { $max }
    .hint = { edge-too-wide.hint }
patch-too-far = A patch in use lies too far from the edge: { LOWER($why) }
    .hint = Put the far patch aside, or make the object smaller.

corners-cross = The four corners cross or lie on a line
    .hint = Put the corners on the sheet's own, clockwise from its top left one.
sheet-size = A sheet has sides of 1 mm to 5 m
    .hint = Type the sheet's sides as they are.
empty-crop = Nothing of the picture lies in the crop
    .hint = Crop again, or take the whole picture.
too-many-bytes = The file has { $n } bytes; the most is { $most }
    .hint = Scale the picture down; 1000 to 2000 pixels across are plenty.
unknown-format = This is not a picture that can be read; PNG, JPEG, WebP, GIF, BMP, TIFF and SVG can
    .hint = Save or export it as PNG, JPEG or SVG, or take a screenshot of it.
too-many-pixels = The picture has { $width } x { $height } pixels; the most is { $most } in all
    .hint = { too-many-bytes.hint }
unknown-kind = This kind of the format is not read: { $kind }
    .hint = { unknown-format.hint }
damaged-picture = The picture is damaged or cut off: { $why }
    .hint = Save or download it again, or take a screenshot of it.
too-many-shapes = The SVG paints { $n } areas; the most is { $most }
    .hint = Join or simplify paths in the program it comes from, or export it as PNG.
too-many-svg-nodes = The SVG has over { $most } nodes
    .hint = { too-many-shapes.hint }
too-many-svg-crossings = The SVG's lines cross each other more than { $most } times
    .hint = { too-many-shapes.hint }
too-much-svg-text = The SVG's entities stand for more than { $millions } million letters
    .hint = Save it as a plain SVG in the program it comes from, or export it as PNG.
too-many-styles = The SVG has { $rules } style rules for { $elements } elements, which is too much to match
    .hint = { too-much-svg-text.hint }
svg-too-far = The SVG draws more than { $pages } pages away from its page
    .hint = Take out what lies far off the page in the program it comes from, or export it as PNG.

doubt-text = Text in the SVG is not drawn. Turn it into paths in the program it comes from.
doubt-image = Pictures inside the SVG are left out. Drop the picture itself to trace it.
doubt-effect = Masks and filters of the SVG are left off; their areas are taken whole.
doubt-shading = Gradients count as their mean colour, patterns as mid grey.
doubt-reduced = The picture of { $from } px is worked on at { $to } px.
doubt-cut-off = The file is cut off: the picture is used as far as it goes.
doubt-sheet-runs-out = A sheet of paper seems to run out of the photo, so its size cannot be told. Take the photo with all four of its corners, or put the corners by hand.
doubt-hidden-corner = A corner of the sheet is hidden. It is taken to be where its sides meet.
doubt-first-of-several = The file holds several pictures; the first one is used.

no-ink = Nothing in the picture counts as ink
    .hint = Move the threshold or swap ink and ground.
all-ink = The whole picture counts as ink
    .hint = { no-ink.hint }
one-colour = The picture has one colour all over
    .hint = Choose a picture with something drawn on it.
no-alpha = The picture has no transparent parts
    .hint = Go by light and dark instead.
nothing-painted = Nothing in the SVG is painted; it has { $n } lines without paint
    .hint = Take them as pen lines, with a width of your own.
no-lines = There are no lines in the SVG
    .hint = Go by light and dark instead: its areas are filled.
too-many-rings = { $n } separate contours; the most is { $most }
    .hint = Raise the size under which specks are dropped, or move the threshold.
too-many-nodes = The contours have { $n } nodes; the most is { $most }
    .hint = Raise the deviation, or the size under which specks are dropped.
too-many-crossings = The drawing's areas cross each other more than { $most } times
    .hint = Join paths in the program it comes from, or export it as PNG.
mostly-noise = The picture is mostly noise: its contours have more than { $millions } million points
    .hint = Smooth it or scale it down; 1000 to 2000 pixels across are plenty.

no-tiers-left = The tiers enclose nothing
    .hint = Give a patch a use, and the tiers a height.
too-many-levels = The object has { $n } levels; the most is { $most }
    .hint = Put some patches aside or simplify the outline.
too-many-triangles = The object has { $n } triangles; the most is { $most }
    .hint = { too-many-levels.hint }
untangled = The outline could not be untangled ({ $why })
    .hint = Change the size or the margin a little, and please report the picture: this should not happen.
unsound = The mesh is not sound: { LOWER($why) }
    .hint = { untangled.hint }


## Changes of the outline, and why one is refused

change-join = Join patches
change-take-away = Take patches away
change-common = Keep the overlap
change-fill-holes = Fill holes
change-rim = Keep a rim
change-grow = Grow or shrink
change-thicken = Thicken what is thin
change-cut = Cut along a line
change-bridge = Bridge
change-fewer = Fewer nodes
change-smooth = Smooth
change-nodes = Own nodes
change-draw = Draw a line
change-copy = Copy
change-place = Move, turn, scale
change-line-up = Line up
change-space-out = Space out
change-mirror = Mirror
change-repeat = Repeat round a centre
change-shape = Add a shape
change-text = Add text
change-paste = Add patches
places-too-far = Places have to lie near the picture
angle-range = Angles are -360 to 360 degrees
choose-patches = Choose { $n } or more patches first
deviation-range = The deviation is { $range }
too-many-pasted = At most { $most } lines are added at once
factor-range = A factor is 0.01 to 100
choose-what-stays = Choose what stays and what is taken away
cut-line-closed = A cut runs along an open line
gap-range = A gap is { LENGTH(0, $unit) } to { LENGTH(400, $unit) }
patch-without-line = A patch has a line round it
patch-line-open = The lines round a patch are closed
say-which-ends = Say which ends are to meet
times-range = A patch is repeated 2 to 24 times
no-patches-to-add = There are no patches to add
length-range = Lengths are { $range }
type-a-letter = Type a letter or more
too-many-text-lines = A text has at most 20 lines
letter-range = Letters are { LENGTH(0.5, $unit) } to { LENGTH(200, $unit) } high
spacing-range = Letter spacing is { LENGTH(-20, $unit) } to { LENGTH(50, $unit) }
leading-range = Lines are 0.5 to 5 heights of capitals apart
arc-range = An arc's radius is { LENGTH(1, $unit) } to { LENGTH(400, $unit) }
ring-hole-range = A ring's hole is smaller than the ring
corner-range = A corner's radius is at most half the shorter side
sides-range = A polygon has 3 to 60 sides
points-range = A star has 3 to 60 points
star-range = A star is narrower inside
foot-range = The foot starts outside the hole
too-few-line-nodes = A line has two nodes or more
too-many-line-nodes = A line has at most 5000 nodes
text-too-long = A text has at most { $most } characters; this has { $n }


## Meshes and files

no-triangles = There are no triangles
no-such-corner = Triangle { $n } has a corner that does not exist
triangle-without-area = Triangle { $n } has no area
double-vertex = Vertices { $first } and { $second } lie in one place
open-edge = The edge from vertex { $from } to { $to } is open or shared by more than two triangles
skin-touches-itself = The skin touches itself at vertex { $n }
no-volume = The skin encloses no volume
damaged-file = { $format }: { LOWER($what) }
too-many-file-triangles = The file has { $n } triangles; the most is { $most }
too-many-file-bytes = The file has { $n } bytes; the most is { $most }
coordinate-too-far = A coordinate lies { $length } from the origin; the most is 1024 mm
not-put-together = The file could not be put together: { $why }
no-valid-attribute = <{ $tag }> has no valid { $name }
no-transform = A transform has not twelve numbers
unknown-file-unit = Unknown unit { $typed }
no-such-object = Object { $id } does not exist
too-many-components = Components are nested too deep or too many
stands-for-too-many = It stands for too many triangles
no-such-vertex = Vertex { $n } does not exist
stl-cut-short = { $bytes } bytes do not hold the { $n } triangles it counts
too-short = Too short
no-vertex-line = Line { $n } is no vertex of three numbers
no-triangle-loop = The loop that ends in line { $n } is no triangle
endsolid-missing = It is cut off: endsolid is missing

too-many-pieces = { $n } pieces are more than { $most }; put them on several beds
    .hint = Type fewer copies, or start another bed.
too-many-layers = { $n } layers are more than { $most }; make the layers higher or the object lower
no-time = Write a time such as 35min or 1h30


## Why an edit is refused

out-of-range = { $what } can be { $min } to { $max }; { $value } is outside
    .hint = Type a value in the range.
range = { $min } to { $max }
percent = { $n } %
pixels = { $n } px
square-pixels = { $n } px2
quarters = { $n } quarters
in-degrees = { $n } degrees
text-length = { $what } has { $n } characters; it can have { $min } to { $max }
    .hint = Type a text of that length.
name-length = { $what } is named by 1 to { $max } characters; this name has { $n }
    .hint = Choose a tier and a filament from the lists.
too-many-choices = { $n } choices; the most is { $most }
    .hint = Raise the speck size instead.
no-point = A place has to be two finite numbers
    .hint = Click a patch in the plan.
impossible-change = { $why }
    .hint = Choose other patches or values.
pinned = That patch is pinned; let go of it first
    .hint = Let go of the pin at Outline.
unknown-tier = That tier is no longer in the stack
    .hint = Look at the stack again.
unknown-change = That change is no longer in the list
    .hint = Look at the list again.
unknown-piece = That piece no longer lies on the bed
    .hint = Look at the bed again.
equal-points = The two points lie on each other; put them further apart
    .hint = Mark two points that are far apart.
no-file-size = The file does not say how large its picture is
    .hint = Type a width, or mark a distance.
no-sheet = No sheet with four straight sides was found in the picture
    .hint = Drag its four corners onto it by hand.
no-pixels = An SVG has no pixels to draw on or to level; choose patches at Outline instead
    .hint = Use Outline for what is in an SVG.
too-many-strokes = { $n } strokes; the most is { $most }
    .hint = Tidy with fewer, wider strokes.
too-many-stroke-points = { $n } points in strokes; the most is { $most }
    .hint = { too-many-strokes.hint }
measure-named = { $part } { LOWER($label) }
no-such-length = There is no length '{ $name }' in it
ends-do-not-meet = The two ends do not run towards each other; join them instead
list-full = The list is full: { $most } changes
no-drawn-line = That change is no drawn line
no-own-nodes = That change has no nodes of its own
no-ends-so-near = No two ends of open lines are as near as that
too-many-own-tiers = A design has at most { $most } tiers of its own
too-many-own-bars = A design has at most { $most } tie bars of its own
too-many-filament-tiers = A design names at most { $most } tiers with filaments of their own
no-tier-length = A tier has no length '{ $name }'

field-name = The name
field-maker = The maker
field-source = The source
field-licence = The licence
field-note = The note
field-kind-of-finding = The kind of finding
field-distance = The distance
field-turn = The turn
field-threshold = The threshold
field-speck-size = The speck size
field-pinhole-size = The pinhole size
field-deviation = The deviation
field-turn-of-a-corner = The turn of a corner
field-number-of-colours = The number of colours
field-number-of-picked-colours = The number of picked colours
field-number-of-merged-colours = The number of merged colours
field-pen-width = The pen width
field-brush = The brush
field-gap = The gap
field-number-of-pins = The number of pins
field-number-of-guides = The number of guides
field-number-of-points = The number of points
field-height = The height
field-tier = A tier
field-filament = A filament
field-place = The place
field-design = The design
field-bed-number = The bed's number
field-width = The width
field-edge-wide = The edge, wide,
field-edge-high = The edge, high,
field-infill = The infill


## What undo says that it takes back

undo-rename = Rename
undo-credit = Credit
undo-unit = Unit
undo-distance = Distance { $value }
undo-file-size = The file's own size
undo-scale = Scale
undo-usual-size = The usual size
undo-print = How it is printed
undo-accept = Leave a finding as it is
undo-tell = Tell a finding again
undo-width = Width { $value }
undo-height = Height { $value }
undo-unpin = Unpin the size
undo-pin = Pin the size
undo-ink = Ink
undo-threshold-auto = Automatic threshold
undo-threshold = Threshold { $n }
undo-invert = Swap ink and ground
undo-specks = Speck size
undo-pinholes = Pinhole size
undo-bend = Corners from { $n } degrees
undo-colours = Colours
undo-pen-width = Pen width { $value }
undo-pen-as-drawn = Pen width as drawn
undo-deviation = Smoothing
undo-level = Level the light
undo-unlevel = Light as it is
undo-clear-strokes = Take all strokes off
undo-straighten = Straighten
undo-unstraighten = Not straightened
undo-sheet = Find the sheet
undo-quarter-turn = Quarter turn
undo-degrees = Turn by { $n } degrees
undo-flip = Flip
undo-crop = Crop
undo-uncrop = Whole picture
stroke-rub-out = Rub out
stroke-draw = Draw
stroke-fill = Fill an area
stroke-clear = Clear an area
undo-aside = Put aside
undo-use = Use of a patch
undo-uses = Use of { $n } patches
undo-freehand = Draw freehand
undo-other = Other: { $change }
undo-change-length = { $what } { $value }
undo-switch-on = Switch a change on
undo-switch-off = Switch a change off
undo-order = Move a change
undo-remove = Remove a change
undo-do-without = Do without lost patches
undo-repoint = Other patches for a change
undo-keep-nodes = Stay with own nodes
undo-close-lines = Close { $n } lines
undo-join-ends = Join the ends of a line
undo-extend = Extend a line to its crossing
undo-close-gaps = Close gaps up to { $value }
undo-pins = Pins
undo-guides = Guides
undo-forget = Forget a choice
undo-take-off = Take off the bed
undo-copies = Copies { $n }
undo-move = Move
undo-gap = Gap { $value }
undo-turns = Turns
undo-quality = Quality
undo-infill = Infill
undo-together = Print together
undo-one-by-one = Print one by one
undo-house = House measures of a { LOWER($recipe) }
undo-add-tier = Add tier '{ $tier }'
undo-set-tier = Change tier '{ $tier }'
undo-set-height = { $what } to { $value }
undo-remove-tier = Remove a tier
undo-order-tier = Move a tier
undo-bars = Tie bars
undo-find-bars = Find tie bars
undo-filament = Filament
undo-paints = Filament of { $n } patches
undo-paint = Filament of a patch
undo-default = Default { LOWER($what) }
tier-length-from = From
tier-length-to = To
tier-length-grow = Grown by
tier-length-rim = Rim
tier-length-top-inset = Upper edge in
tier-length-top-depth = Upper edge down
tier-length-bottom-inset = Lower edge in
tier-length-bottom-depth = Lower edge up
tier-numbered = Tier { $n }
length-width = Width
length-by = By
length-gap = Gap
length-deviation = Deviation
length-radius = Radius
length-size = Size
length-spacing = Spacing
length-arc = Arc
length-height = Height
length-corner = Corner
length-inner = Inside
length-hole = Hole
length-foot = Foot
measure-usual = { $part }: { LOWER($label) } as usual
made-a = Made a { LOWER($recipe) }
drawing-wide = Drawing { $value } wide
drawing-high = Drawing { $value } high
cookie-wide = Cookie { $value } wide
cookie-high = Cookie { $value } high
object-wide = Whole object { $value } wide
object-high = Whole object { $value } high
called = Called '{ $name }'
in-millimetres = In millimetres
in-inches = In inches
patches-used = { $n ->
    [one] A patch { $used }
   *[other] { $n } patches: each { $used }
}
used-as-edge = shapes the object
used-as-detail = is drawn on it
used-as-both = shapes the object and is drawn
used-as-opening = is cut through
used-aside = is put aside
set-printer-name = A printer's name
set-side-of-the-bed = A side of the bed (mm)
set-nozzle = The nozzle (mm)
set-line-width = The line width (mm)
set-layer-height = The layer height (mm)
set-number-of-filaments-it-loads = The number of filaments it loads
set-filament-name = A filament's name
set-density = The density (g/cm³)
set-price-of-a-kilogram = The price of a kilogram
set-first-layer = The first layer (mm)
set-number-of-walls = The number of walls
set-number-of-solid-layers = The number of solid layers
set-infill = The infill (%)
set-number-of-skirt-lines = The number of skirt lines
set-brim = The brim (mm)
set-speed-of-outer-walls = The speed of outer walls (mm/s)
set-speed-of-walls = The speed of walls (mm/s)
set-speed-of-infill = The speed of infill (mm/s)
set-speed-of-the-first-layer = The speed of the first layer (mm/s)
set-travel-speed = The travel speed (mm/s)
set-acceleration = The acceleration (mm/s²)
set-highest-flow = The highest flow (mm³/s)
set-shortest-layer-time = The shortest layer time (s)
set-heating-time = The heating time (s)
set-nozzle-temperature = The nozzle's temperature (°C)
set-bed-temperature = The bed's temperature (°C)
set-time-of-a-change = The time of a change (s)
set-purge = The purge (mm³)
set-infill-alone = With no walls and no solid layers, the infill (%)
document-choices = It has { $n } choices; the most is { $most }
document-paints = It has { $n } painted patches; the most is { $most }
document-pins = It has { $n } pins; the most is { $most }
document-guides = It has { $n } guides; the most is { $most }
document-changes = It has { $n } changes; the most is { $most }
document-tiers = It has { $n } own tiers; the most is { $most }
document-bars = It has { $n } tie bars; the most is { $most }
document-name = It has { $n } characters in its name; the most is { $most }
no-such-infill = Its infill is not between 0 and 100 %
document-places-too-far = Some of its places do not lie near the picture
newer-version = The design was saved by a newer Kachel (version { $found }; this one knows { $known })
    .hint = Open it with the newer Kachel.
damaged-design = The design cannot be read: { LOWER($why) }
    .hint = Go back to an earlier state of it.
unwritable-design = The design cannot be written: { $why }
    .hint = { damaged-design.hint }
no-version-stated = It states no version
house-name = House measures have a name of 1 to { $most } characters
house-twice = Two house measures are called '{ $name }'
too-many-houses = A workshop keeps at most { $most } house measures
house-measure = '{ $name }': { LOWER($why) }
no-house-file = This is no file of house measures: { LOWER($why) }
file-too-large = It is too large
says-it-is = It says that it is '{ $format }'
file-name-length = A pattern of file names has 1 to { $most } characters
no-file-name-word = There is no {"{"}{ $word }{"}"}: {"{"}design{"}"}, {"{"}recipe{"}"}, {"{"}width{"}"} and {"{"}height{"}"} are
name-of-60 = { $what } has 1 to 60 characters
number-of-printers = A workshop has 1 to { $most } printers
number-of-workshop-filaments = A workshop has 1 to { $most } filaments
no-such-printer = The chosen printer is not in the workshop
currency-length = A currency has at most 8 characters
filament-without-name = The filament '{ $filament }' has no name of its own for the program
material-length = A material has at most 40 characters


## Results, beds and prints

picture-missing = The picture could not be read from the shelf: { $why }
    .hint = Replace the picture, or restore the data directory from a copy.
infill-out-of-range = An infill of { $percent } % cannot be printed; it is 0 to 100 %
    .hint = Type a percentage in the range.
print-too-large = { $why }
    .hint = Make the object smaller, or the layers higher.
bed-too-full = { $why }
    .hint = Put fewer pieces on the bed.
no-solid = There is no solid yet
    .hint = Mend what the bench says first.
empty-bed = Nothing on this bed can be printed
    .hint = Put designs on it first.
pieces-overlap = Pieces of this bed lie on each other
    .hint = Arrange the bed, or move them by hand.
no-picture-drawn = The picture could not be drawn
piece-cannot-lie = A piece cannot be put where it lies: { LOWER($why) }
    .hint = { pieces-overlap.hint }
other-picture = The file holds another picture than its design says
fact-recipe = Recipe
fact-size = Size
fact-volume = Volume
fact-layers = Layers
fact-measure = { $part }, { LOWER($label) }
cubic-centimetres = { $n } cm³
kind-backwards = backwards
kind-between-layers = between layers
kind-breaks-out = breaks out
kind-bridge = bridge
kind-colours-in-one-layer = colours in one layer
kind-corners-lift = corners lift
kind-credit-of-another = credit of another
kind-cup-rocks = cup rocks
kind-cut-off = cut off
kind-filament-gone = filament gone
kind-finish-too-wide = finish too wide
kind-first-picture = first picture
kind-flange-too-high = flange too high
kind-floats = floats
kind-hangs-askew = hangs askew
kind-heavy = heavy
kind-island = island
kind-larger-than-bed = larger than bed
kind-loose-part = loose part
kind-lost-change = lost change
kind-lost-patch = lost patch
kind-missing-letter = missing letter
kind-moved-on = moved on
kind-narrow-flange = narrow flange
kind-narrow-gap = narrow gap
kind-narrow-neck = narrow neck
kind-narrow-slit = narrow slit
kind-no-height = no height
kind-no-room = no room
kind-not-for-sale = not for sale
kind-nothing-left = nothing left
kind-one-line = one line
kind-open-line = open line
kind-opening-near-wall = opening near wall
kind-overhang = overhang
kind-picture-cut-off = picture cut off
kind-picture-reduced = picture reduced
kind-rule-failed = rule failed
kind-runs-out = runs out
kind-sealed-gap = sealed gap
kind-several-cookies = several cookies
kind-several-pieces = several pieces
kind-sharp-flange = sharp flange
kind-sheet = sheet
kind-shows-through = shows through
kind-simpler-rule = simpler rule
kind-small-foot = small foot
kind-stamp-too-high = stamp too high
kind-stamp-vanishes = stamp vanishes
kind-thin-cover = thin cover
kind-thin-line = thin line
kind-thin-place = thin place
kind-thin-tip = thin tip
kind-thin-wall = thin wall
kind-tight-on-bed = tight on bed
kind-too-deep = too deep
kind-too-long = too long
kind-touching-pieces = touching pieces
kind-under-a-layer = under a layer
kind-wall-thicker-than-shape = wall thicker than shape
put-magnet-in = Put the magnet in
put-magnet-into = Put the magnet in: { $design }
change-to = Change to { $filament }
tops-keep-holes = With { $percent } % infill, tops keep holes: lines over wide gaps hang.
top-stays-open = Without solid layers the top stays open.
thin-left-out = Up to { $area } of a layer are thinner than half a line, and are left out.
sheet-print = Print: { $minutes } min, { $layers } layers
sheet-stop = { $what } at { $height }, before layer { $layer }, after { $minutes } min
sheet-magnet = magnet at { $height }
sheet-drawn = { $size }, drawn { $percent } % of its size
with-hint = { $why }. { $hint }
it-has-no-solid = It has no solid yet
bed-no-object = '{ $design }' cannot be printed: { LOWER($why) }
bed-too-large = '{ $design }' is too large for the bed: { $object } on { $bed }, with { $spare } to the edge. Make it smaller, or choose a larger printer.
bed-over-the-edge = { $n ->
    [one] '{ $piece }' lies
   *[other] { $n } pieces lie
} over the edge of the bed. Move it back, or arrange the bed.
bed-too-high = { $n ->
    [one] '{ $piece }' is
   *[other] { $n } pieces are
} higher than the printer reaches: { $high } of { $most }.
bed-filaments = This bed needs { $n } filaments ({ $names }), and the printer loads { $loads }: each change is by hand. Put designs of one filament on a bed of their own, or choose a printer that loads more.
bed-head-room = Printed one by one, pieces need { $room } between them for the print head; { $n ->
    [one] '{ $piece }' has one
   *[other] { $n } pieces are
} nearer. Arrange the bed, or print all together.
bed-under-head = Printed one by one, pieces are { $most } high at the most, or the beam of the print head meets them; { $n ->
    [one] '{ $piece }' is
   *[other] { $n } pieces are
} higher. Print all together.
bed-overlap = { $n ->
    [one] '{ $first }' and '{ $second }' lie on each other or grow together. Move one of them, or arrange the bed.
   *[other] '{ $first }' and '{ $second }' lie on each other or grow together, and { $more } more pairs. Move one of them, or arrange the bed.
}
pixels-for-patches = a picture of pixels; patches are added from an SVG
sample-hedgehog = Hedgehog
sample-ginkgo = Ginkgo leaf
sample-beetroot = Beetroot
sample-snail = Snail
sample-watering-can = Watering can
sample-ladybird = Ladybird
sample-pumpkin-badge = Pumpkin badge
sample-swap-badge = Radish badge
sample-signature = Signature
sample-bean-scan = Bean pod
sample-leaf-photo = Oak leaf
sample-kind-silhouette = silhouette
sample-kind-line-art = line art
sample-kind-two-colours = two colours
sample-kind-four-colours = four colours
sample-kind-pen-line = pen line
sample-kind-pencil-scanned = pencil, scanned
sample-kind-phone-photo = phone photo
ships-with-kachel = Ships with Kachel


## The practice printer

not-now = The printer cannot { $what } while it { $state }
order-pause = pause
order-go-on = go on
order-stop = stop
order-clear = be cleared
order-fail = fail like that
doing-nothing = has nothing to do
doing-heating = heats
doing-printing = prints
doing-waiting = waits for a change
doing-paused = is paused
doing-filament-out = has no filament
doing-came-loose = has a loose print on it
doing-off = has no power
doing-ended = has a print on its bed
plan-layers = The plan has { $n } layers; the most is { $most }
plan-stops = The plan has { $n } stops; the most is { $most }
plan-name-length = The plan has { $n } characters in its name; the most is { $most }
plan-printer-length = The plan has { $n } characters in its printer's name; the most is { $most }
plan-filaments = The plan has { $n } filaments; the most is { $most }
plan-of-name = name
plan-of-filament = filament
plan-of-first-filament = first filament
plan-of-bed = bed
plan-of-heating-time = heating time
plan-of-temperatures = temperatures
plan-of-heights = heights
plan-of-times = times
plan-of-stops = stops
plan-of-lines = lines
plan-without-layers = The plan has no layers
plan-nonsense = The plan's { $what } cannot be printed
speed-range = The printer runs { $least } to { $most } times as fast as a real one
    .hint = Choose a speed in the range.
no-such-job = The printer has no such job
no-such-layer = The job has no such layer
queue-full = { $most } jobs wait at the printer, which is the most; take some out first
printer-memory = The printer's memory could not be used: { $why }
bed-is-clear = The bed is clear
    .advice = Send a bed or a design from its Print station.
it-heats = It heats
it-prints = It prints layer { $layer } of { $layers }
it-waits = { $what }
    .advice = It keeps bed and nozzle hot until you say that it is done.
it-only-waits = It waits
it-is-paused = Paused
    .advice = Bed and nozzle stay hot. A pause of more than some minutes may leave a blob.
filament-has-run-out = The filament has run out
    .advice = The sensor halted it in time. Load a new spool of the same filament, and let it go on: nothing is lost but a seam at this height.
print-is-loose = The print has come loose
    .advice = It moves along with the nozzle, and what follows is laid into the air. It cannot be saved: stop it, and clear the bed. Before the next try wash the plate, print the first layer slower, and give it a brim of { LENGTH(5, $unit) }.
print-is-loose-in = The print has come loose in layer { $layer }
    .advice = { print-is-loose.advice }
power-is-off = The power is off
    .advice = The layer is remembered, and the plate cools. While it is warmer than 40 °C the print holds, and it can go on from the beginning of that layer; once it is colder the print lets go.
print-finished = Finished
    .advice = Let the plate cool below 40 °C, take the print off, then say that it is clear.
print-failed = Ended: the print came loose
    .advice = Take what is on the bed off, and clean the plate.
print-stopped = Stopped
    .advice = Take what is on the bed off, then say that it is clear.


## What the server refuses: the detail, then titles and hints by code

problem-no-file = No file
    .hint = Try another format.
problem-no-solid = No solid
    .hint = Mend what the bench says first.
problem-empty-bed = Empty bed
    .hint = Put designs on it first.
problem-pieces-overlap = Pieces overlap
    .hint = Arrange the bed, or move them by hand.
problem-settings-refused = Settings refused
    .hint = Type a value in the range.
problem-not-found = Not found
    .hint = Go back to the shelf.
problem-no-version = Version needed
    .hint = Load the design again.
problem-upload-too-large = Upload too large
    .hint = Scale the picture down; 2000 pixels across are plenty.
problem-no-file-name = No file name
    .hint = Write {design}, {recipe}, {width} or {height} where they belong.
problem-malformed = Malformed request
    .hint = Load the page again.
problem-foreign = Foreign page
    .hint = Open Kachel by the address it printed.
problem-no-pass-phrase = Pass phrase needed
    .hint = Ask who started the server.
problem-too-many-tries = Too many tries
    .hint = Wait a minute, then type it once more.
problem-printer-gone = No printer
    .hint = Nothing is lost. See whether it is on and within reach, then try again.
problem-not-printable = Not printable
    .hint = Mend what the bed says first.
problem-stalled = Stalled
    .hint = See whether the connection holds, then try again.
problem-no-time = No time
    .hint = Type hours and minutes.
problem-too-slow = Too slow
    .hint = Put some patches aside or use a smaller picture.
problem-fault = Fault
    .hint = Nothing is lost. Load the page again; please report it.
problem-damaged-package = Damaged file
    .hint = Export it again from where it was made, or start from the picture.
problem-house-refused = House measures refused
    .hint = Take a file that Kachel wrote, or choose another name.
problem-no-design-inside = No design inside
    .hint = Kachel opens 3MF files that it wrote itself; start from a picture instead.
problem-no-shelf-inside = No shelf inside
    .hint = Take a ZIP that Kachel wrote when a shelf was taken home, or one of 3MF files that it wrote.
problem-plan-refused = Plan refused
    .hint = Send the bed or the design again.
problem-not-now = Not now
    .hint = Look at what the printer is doing.
problem-unknown-job = Unknown job
    .hint = Look at the queue again: it was changed meanwhile.
problem-queue-full = Queue full
    .hint = Take jobs out of the printer's queue first.
problem-no-printer = No printer
    .hint = The shelf is safe. Look at the file printer.db in the data directory: whether it is there, and the disk has room.
problem-unknown-bed = Unknown bed
    .hint = Go back to the shelf.
problem-unknown-design = Unknown design
    .hint = Go back to the shelf.
problem-unknown-step = Unknown step
    .hint = Look at the list of steps again: it was changed meanwhile.
problem-damaged-picture = Damaged picture
    .hint = Give the design its picture once more, at Artwork under 'Another picture'.
problem-no-shelf = No shelf
    .hint = Put a copy in its place.
problem-shelf-removed = The shelf is gone
    .hint = Stop Kachel. What was there is kept among its copies; put it in place with `kachel restore`, and start again.
problem-unknown-picture = Unknown picture
    .hint = Go back to the shelf.
problem-stale = Changed meanwhile
    .hint = Load the newer state, then make the change again.
problem-no-step = No such step
    .hint = There is nothing more in that direction.
problem-too-many-snapshots = Too many snapshots
    .hint = Forget some of them first.
problem-bad-label = No such label
    .hint = Take another word.
problem-disk-full = Disk full
    .hint = Make room on the disk; everything saved so far is kept.
problem-newer-file = Newer data
    .hint = Start the newer Kachel.
problem-damaged-design = Unreadable design
    .hint = Start the newer Kachel, or undo.
problem-shelf-not-usable = Shelf not usable
    .hint = Check the disk and the data directory.
problem-no-helper = Cannot compute
    .hint = Nothing is lost. Start Kachel again.
problem-helper-died = Computation failed
    .hint = Try again; if it fails once more, undo the last change or use another picture.
problem-too-much-memory = Too much memory
    .hint = Use a smaller or plainer picture, or put some patches aside.
problem-stopped = Stopped
    .hint = The last good result is still shown.
problem-left-alone = Left alone
    .hint = It is on the shelf as it was saved. Try it again, go back to an earlier state, or delete it.
problem-no-result = No result
problem-no-length = No length
problem-out-of-range = Out of range
problem-unknown-measure = Unknown measure
problem-too-many-pieces = Too many pieces
problem-text-length = Text too long
problem-name-length = Name too long
problem-too-many-choices = Too many choices
problem-no-point = No point
problem-impossible-change = No such change
problem-pinned = Pinned
problem-unknown-tier = Unknown tier
problem-unknown-change = Unknown change
problem-unknown-piece = Unknown piece
problem-equal-points = Equal points
problem-no-file-size = No size in the file
problem-no-sheet = No sheet found
problem-no-pixels = No pixels
problem-too-many-strokes = Too many strokes
problem-corners-cross = Picture not prepared
problem-sheet-size = Picture not prepared
problem-empty-crop = Picture not prepared
problem-no-picture = Picture not prepared
problem-no-outline = No outline
no-design-inside = This 3MF holds a mesh, but no design of Kachel's
no-shelf-inside = This is no shelf that can be read: { LOWER($why) }
no-such = There is no such { $what }
no-if-match = A change has to say in If-Match which version it changes
upload-too-large = The upload is larger than { $most } bytes
malformed = The request cannot be read: { LOWER($why) }
foreign = This server only answers pages of its own
no-pass-phrase = This server asks for its pass phrase
too-many-tries = Too many wrong pass phrases
printer-gone = The printer at { $address } does not answer: { $why }
stalled = Nothing came for { $seconds } s, so the request was given up
too-slow = This took longer than { $seconds } s and was stopped
fault = Something went wrong in Kachel itself
thing-sample = sample
thing-page = page
thing-solid = solid
thing-mesh = mesh
thing-plate = plate
thing-layer = layer
thing-file-format = file format
thing-outline = outline
thing-patch = patch
thing-thumbnail = thumbnail
thing-house-measures = house measures
thing-file = file
thing-practice-printer = practice printer
thing-printer-elsewhere = printer elsewhere
thing-design = design
thing-bed = bed
thing-snapshot = snapshot
thing-thing = thing
not-on-shelf = There is no such { $what } on the shelf
no-such-step = The history has no such step
no-such-picture = There is no such picture on the shelf
picture-was-changed = The picture on the disk is not what was put there
shelf-removed = The shelf's file was removed or replaced while Kachel runs, so nothing more is saved
shelf-emptied = The file is empty; something has emptied it. Put a copy in its place, or move it away for a new shelf
shelf-of-others = The file is no shelf of Kachel's. Put a copy in its place, or move it away for a new shelf
changed-meanwhile = This was changed meanwhile, in another tab or on another device
nothing-to-undo = There is nothing to undo
nothing-to-redo = There is nothing to redo
nothing-to-go-back-to = There is nothing to go back to
too-many-snapshots = The design has { $most } snapshots, which is the most; forget some first
disk-full = The disk is full
newer-file = The data file was made by a newer Kachel (version { $found }; this one knows { $known })
shelf-not-usable = The shelf could not be used: { $why }
too-many-labels = A { $what } has { $most } labels at the most; take one away first
label-empty = A label has to have a letter
label-too-long = A label has { $most } letters at the most
state-missing = Its present state is missing
disk-changed-it = What is on the disk is not what was written there
damaged-work = A damaged { $what }
no-helper = The part of Kachel that computes could not be started: { $why }
helper-died = This computation ended the part of Kachel that computes; what was saved is safe
too-much-memory = This needs more than { $mb } MB of memory and was stopped
stopped-by-hand = Stopped
left-alone = The computation of this design has failed { $n } times, so it is left alone
snapshot-name = A snapshot's name has 1 to 80 characters
connection-closed = The connection is closed
no-file-in-it = There is no file in it
no-edits = The list of edits is empty
planned-time = The planned time has to be a second or more
no-such-part = There is no such part in the file
file-gone = The file is gone
no-zip = It is no ZIP, or it breaks off
no-shelf-no-3mf = Neither a shelf nor a 3MF is in it
made-by-newer = It was made by a newer Kachel
not-its-picture = Its picture is not the one that it was made from
larger-than-gb = It is larger than { $most } GB
designs-named = { $n } designs are named; name 1 to { $most }
part-unread = { $name }: { $why }
part-larger-than-mb = { $name } is larger than { $most } MB
too-many-works = It holds { $n } designs and beds, { $most } are the most


## The shelf

taken-off-shelf = It was taken off the shelf. Put it back there, or take it off the bed.
a-design = A design
new-bed = New bed
copied-work = Copied
copied-name = { $name } copy
# The name comes before the number, in every language.
copied-name-again = { $name } copy { $n }
branched = Branched off
arranged = Arranged
new-design = New design
opened-3mf = Opened from a 3MF
another-picture = Another picture
back-to = Back to '{ $name }'
patches-from-svg = Patches from an SVG
outline-file = { $name } outline
outline-of = The outline of '{ $design }'
brought = Brought from another shelf
file-not-written = The file could not be written: { $why }
nobody-waits = Nobody waits for it any more
no-solid-made = No solid
answered = It answered { $status }
the-workshop = the workshop
filament-celadon = Celadon
filament-cobalt = Cobalt
filament-shino = Shino
filament-honey = Honey
filament-oxblood = Oxblood
filament-soot = Soot
practice-printer = Practice printer
four-filament-printer = Four-filament printer
file-as-text = { $name } as text
file-by-filament = { $name } by filament
decoder-gave-up = The decoder gave up
crossings-come-back = crossings kept coming back
pinches-come-back = pinches kept coming back
slopes-cross = slopes that cross
not-triangulated = triangulation
nameless-file = design
