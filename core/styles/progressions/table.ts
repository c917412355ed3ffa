/**
 * Progressions worked out for Fendro from common harmonic practice, as degrees: family | mode | moods | bars.
 * Bars are parted by commas, chords in a bar by spaces. In minor modes III, VI and VII are the minor degrees.
 */
export const PROGRESSION_TABLE = `
Folk | major | plain, homely | I, IV, I, V
Folk | major | plain, bright | I, V, IV, I
Folk | major | homely, warm | I, I, IV, I, I, I, V, V
Folk | major | homely, turning | I, IV, I, V, I, IV, I V, I
Folk | major | wandering | I, vi, IV, V
Folk | major | wandering, open | I, iii, IV, V
Folk | major | hopeful | IV, I, V, I
Folk | major | tender | I, I/3, IV, V
Folk | minor | old, grave | i, VII, i, VII
Folk | minor | old, rolling | i, VII, VI, VII
Folk | minor | grave, telling | i, i, VII, i, III, VII, i VII, i
Folk | dorian | old, bright | i, IV, i, IV
Folk | dorian | old, dancing | i, VII, IV, i
Folk | mixolydian | open, dancing | I, bVII, I, bVII
Folk | mixolydian | open, proud | I, bVII, IV, I
Songwriter | major | hopeful, open | I, V, vi, IV
Songwriter | major | longing | vi, IV, I, V
Songwriter | major | longing, open | IV, I, V, vi
Songwriter | major | tender, falling | I, V/7, vi, I/5, IV, I/3, ii, V
Songwriter | major | tender | Imaj7, IVmaj7, Imaj7, IVmaj7
Songwriter | major | warm, steady | I, iii, vi, IV
Songwriter | major | bittersweet | I, IV, iv, I
Songwriter | major | bittersweet, longing | IV, iv, I, I
Songwriter | major | bittersweet | I, III7, vi, IV iv
Songwriter | major | quiet, open | Iadd9, Vsus4, vi7, IVadd9
Songwriter | major | rising | I, ii7, I/3, IV
Songwriter | major | rising, hopeful | vi, V, IV, V
Songwriter | major | thoughtful | ii7, IV, I, V
Songwriter | major | thoughtful, open | IVmaj7, vi7, Vsus4, V
Songwriter | minor | restless | i, VI, III, VII
Songwriter | minor | restless, dark | i, III, VII, iv
Songwriter | minor | falling | i, VII, VI, V
Songwriter | minor | dark, tender | i, v, VI, iv
Songwriter | minor | dark, pleading | i, iv, VI, V
Ballad | major | tender, grand | I, vi, ii, V
Ballad | major | tender | I, I7, IV, iv
Ballad | major | grand, rising | I, V/3, vi, III7, IV, I/5, ii7, V
Ballad | major | grand | I, iii7, IV, V, vi, iii, IV, V7
Ballad | major | soft, longing | Imaj7, iii7, IVmaj7, V7
Ballad | major | soft, falling | I, V/7, bVII/1, IV/1
Ballad | major | soft | IVmaj7, iii7, ii7, Imaj7
Ballad | major | yearning | I, Iaug, I6, I7, IV, iv, I/5, V7
Ballad | minor | grave, falling | i, v/b3, VI, III/5, iv, i/b3, ii7b5, V7
Ballad | minor | grave | i, V/3, i7, IV/1, VI, iv, V, V7
Ballad | minor | pleading | i, i/b7, VI, V7
Ballad | minor | soft, grave | i, VI, iv, V7
Pop | major | bright, driving | I, IV, vi, V
Pop | major | bright, simple | I, IV, V, IV
Pop | major | bright, simple | I, vi, V, IV
Pop | major | glad, rising | I, ii, iii, IV
Pop | major | glad | IV, V, I, vi
Pop | major | glad, turning | IV, V, iii, vi
Pop | major | longing, turning | IVmaj7, V7, iii7, vi
Pop | major | longing, turning | IVmaj7, III7, vi7, I7
Pop | major | urgent | vi, I, V, IV
Pop | major | urgent, open | ii, IV, vi, V
Pop | major | bright, borrowed | I, bVII, IV, iv
Pop | major | bold, borrowed | I, bIII, IV, I
Pop | major | bold, borrowed | I, V, bVII, IV
Pop | major | bold, rising | bVI, bVII, I, I
Pop | minor | driving, dark | i, VII, iv, VI
Pop | minor | driving, dark | VI, VII, i, i
Pop | minor | driving | i, VI, VII, v
Pop | minor | urgent | i, iv, VII, III
Rock | major | proud, simple | I, IV, V, V
Rock | major | proud | I, V, IV, IV
Rock | mixolydian | proud, open | I, I, bVII, IV
Rock | mixolydian | driving | I, IV, bVII, IV
Rock | major | heavy, bold | I, bIII, bVII, IV
Rock | major | heavy, borrowed | I, bVI, bVII, I
Rock | minor | heavy, dark | i, VI, VII, i
Rock | minor | heavy, falling | i, VII, VI, VI
Rock | minor | dark, turning | i, III, iv, VI
Rock | minor | stormy | i, bII, i, VII
Rock | minor | stormy, grand | i, VI, III, VII, i, VI, iv, V
Rock | minor | stormy, falling | i, v, iv, VI
Punk | major | fast, plain | I, V, IV, V
Punk | major | fast, glad | I, IV, I, V, I, IV, V, I
Punk | minor | fast, dark | i, VI, III, VII, iv, VI, VII, VII
Metal | phrygian | dark, heavy | i, bII, i, bII
Metal | minor | dark, heavy | i, VI, iv, bII
Metal | harmonic-minor | dark, grand | i, iv, V, VI
Blues | major | plain, twelve bars | I7, I7, I7, I7, IV7, IV7, I7, I7, V7, IV7, I7, V7
Blues | major | plain, quick change | I7, IV7, I7, I7, IV7, IV7, I7, I7, V7, IV7, I7, V7
Blues | major | turning, twelve bars | I7, IV7, I7, I7, IV7, #iv°7, I7, VI7, ii7, V7, I7 VI7, ii7 V7
Blues | major | eight bars, turning | I7, V7, IV7, IV7, I7, V7, I7 IV7, I7 V7
Blues | major | eight bars, soulful | I, III7, vi, I7, IV7, #iv°7, I VI7, II7 V7
Blues | minor | dark, twelve bars | i7, i7, i7, i7, iv7, iv7, i7, i7, VI7, V7, i7, V7
Blues | minor | dark, slow | i7, iv7, i7, i7, iv7, iv7, i7, i7, ii7b5, V7, i7, V7
Gospel | major | proud, warm | I, I7, IV, #iv°7, I/5, V7, I, I
Gospel | major | joyful | I, III7, vi, I7, IV, iv, I/5 V7, I
Gospel | major | joyful, walking | I7, IV7, I7/3, IV7, I7, VI7, II7, V7
Gospel | major | solemn | I, IV/1, I, V7sus4, V7
Gospel | major | solemn, closing | IV, I/3, ii7, I
Gospel | major | longing | IVmaj7, V/4, iii7, vi7, ii7, V7sus4, Imaj9, Imaj9
Soul | major | warm, sevenths | Imaj7, vi7, ii7, V7sus4
Soul | major | warm, smooth | ii7, V7, Imaj7, IVmaj7
Soul | major | smooth, longing | IVmaj7, iii7, vi7, ii7, IVmaj7, iii7, ii7, V7sus4
Soul | major | proud, rising | I, ii7, iii7, IVmaj7
Soul | major | pleading | I, iii7, ii7, V7
Soul | major | smooth, gliding | Imaj9, biii°7, ii9, V13
Soul | major | late, smooth | IVmaj9, III7#9, vi9, v9 I13
Soul | minor | dusky, smooth | i9, iv9, i9, V7#9
Soul | minor | dusky | i7, VImaj7, ii7b5, V7
Soul | dorian | dusky, steady | i9, IV9, i9, IV9
Soul | minor | dusky, gliding | VImaj9, V7#5, i9, i9
Soul | major | eight bars, sevenths | Imaj7, Imaj7, iii7, vi7, ii7, ii7, V7sus4, V7
Soul | major | eight bars, sevenths | IVmaj7, III7, vi7, ii7, V7, Imaj7, IVmaj7, V7sus4
Funk | mixolydian | on one chord | I9, I9, IV9, I9
Funk | dorian | on one chord, tight | i7, i7, IV9, i7
Funk | minor | tight, dark | i9, bVII9, bVImaj9, V7#9
Funk | mixolydian | strutting | I7, bIII7, IV7, I7
Jazz | major | turning, sevenths | ii7, V7, Imaj7, Imaj7
Jazz | major | turning, sevenths | Imaj7, VI7, ii7, V7
Jazz | major | turning | iii7, VI7, ii7, V7
Jazz | major | gliding | iii7, biii7, ii7, bII7
Jazz | major | gliding, back door | Imaj7, Imaj7, iv7, bVII7, Imaj7, Imaj7, ii7, V7
Jazz | major | wandering, sixteen bars | Imaj7, Imaj7, iv7, bVII7, Imaj7, Imaj7, VI7, VI7, ii7, ii7, II7, II7, ii7, V7, Imaj7 VI7, ii7 V7
Jazz | major | bridge, cycle of dominants | III7, III7, VI7, VI7, II7, II7, V7, V7
Jazz | major | eight bars, swinging | I6 VI7, ii7 V7, iii7 VI7, ii7 V7, I6 I7, IV6 #iv°7, I6/5 V7, I6
Jazz | minor | turning, dusky | ii7b5, V7b9, im6, im6
Jazz | minor | falling fifths | iv7, VII7, IIImaj7, VImaj7, ii7b5, V7, i7, i7
Jazz | minor | descending line | i, immaj7, i7, im6
Jazz | dorian | modal, cool | im7, im7, im7, im7, bii7, bii7, im7, im7
Jazz | major | extended, rich | ii9, V13, Imaj9, VI7b9
Jazz | major | extended, chromatic | Imaj9, bIIImaj7, bVImaj7, bIImaj7
Bossa | major | warm, gliding | Imaj7, II7, ii7, bII7
Bossa | major | warm, longing | Imaj7, #i°7, ii7, V7
Bossa | major | soft, wandering | Imaj9, Imaj9, bVII9, bVII9, Imaj9, VI7, ii9, V7b9
Bossa | minor | soft, dusky | i9, IV9, bVImaj7, V7b9
Bossa | minor | soft, falling | i7, i7/b7, ii7b5/b5, V7b9
Latin | minor | dancing, bright | i, iv, V7, iv
Latin | minor | dancing, falling | i, VII, VI, V7
Latin | major | dancing, glad | I, IV, V7, IV
Latin | major | dancing, turning | I6, ii7, V7, I6
Latin | phrygian-dominant | proud, old | I, bII, I, bII
Latin | minor | proud, falling | iv, III, bII, I
Country | major | plain, homely | I, I, IV, IV, V, V, I, I
Country | major | plain, rolling | I, IV, V, I
Country | major | lonesome | I, V, vi, V, IV, I, II7, V7
Country | major | glad, turning | I, VI7, II7, V7
Country | major | walking, plain | I, I/3, IV, IV, V, V/7, I, I
Country | mixolydian | open, driving | I, bVII, IV, V
Waltz | major | turning, graceful | I, I, V7, V7, V7, V7, I, I
Waltz | major | wistful | I, vi, ii, V7
Waltz | major | wistful, gliding | Imaj7, iii7, biii°7, ii7, V7, V7, I6, I6
Waltz | minor | wistful, grave | i, iv, V7, i
Waltz | minor | grave, turning | i, i, iv, iv, V7, V7, i, V7
Island | major | easy, sunny | I, IV, I, IV
Island | major | easy, sunny | I, V, ii, IV
Island | minor | easy, dark | i, iv, i, iv
Island | major | easy, longing | vi, iii, IV, I
Dance | minor | driving, hypnotic | i, i, VI, VII
Dance | minor | driving, longing | VI, i, VII, III
Dance | minor | lifting | iv, VI, i, VII
Dance | major | lifting, bright | IV, vi, I, V
Dance | minor | deep, sevenths | i7, iv7, VImaj7, v7
Dance | minor | deep, gliding | i9, VImaj9, iv9, VII9
Dance | dorian | deep, steady | i7, i7, IV7, IV7
Synth | major | bright, shimmering | IVmaj7, V, vi7, I
Synth | minor | cold, shimmering | i, III, VI, iv
Synth | lydian | floating, bright | I, II, I, II
Synth | minor | cold, falling | VI, V, i, VII
Hip hop | minor | dusty, looped | i7, VImaj7, i7, V7
Hip hop | dorian | dusty, steady | i9, iv9
Hip hop | major | dusty, warm | ii9, Imaj9
Lo-fi | major | soft, extended | IVmaj9, iii7, ii9, Imaj9
Lo-fi | major | soft, sleepy | ii9, V13, Imaj9, vi9
Lo-fi | minor | soft, rainy | VImaj9, v7, i9, i9
Lo-fi | major | soft, gliding | Imaj7, bIIImaj7, bVImaj7, V7sus4
Film | minor | grand, dark | i, VI, III, V
Film | minor | dark, drifting | i, bvi, i, bvi
Film | major | wonder, floating | I, bVI, I, bVI
Film | lydian | wonder, open | I, II/1, I, vii
Film | major | heroic | I, bIII, bVII, I
Film | major | heroic, rising | I, bVI, bVII, I, I, bIII, bVII, I
Film | minor | mourning | i, i/b7, VI, iv, i/5, V, i, i
Film | minor | suspense | i, #iv°7, i, bII
Film | major | resting, open | Iadd9, Iadd9, IVadd9, IVadd9
March | major | proud, upright | I, I, V, I, IV, I, V7, I
March | minor | solemn, upright | i, V, i, V, iv, i, V7, i
Modal | dorian | floating | i7, ii7, i7, ii7
Modal | dorian | floating, bright | i, ii, III, IV
Modal | lydian | floating, bright | Imaj7, II, vii7, Imaj7
Modal | mixolydian | rolling | I, v, bVII, IV
Modal | mixolydian | rolling, open | I, bVII, v, IV
Modal | phrygian | brooding | i, bII, bIII, bII
Modal | phrygian | brooding, still | i, bvii, bII, i
Modal | aeolian | still, dark | i, v, i, v
Modal | melodic-minor | strange, bright | i, IV7, i, V7
Sixteen bars | major | song form, warm | I, I, IV, IV, ii, V, I, I, vi, vi, ii, ii, IV, iv, I V, I
Sixteen bars | minor | song form, dark | i, i, iv, iv, VII, VII, III, III, VI, VI, iv, iv, ii7b5, V7, i, i
Turnaround | major | back to the top | I vi, ii V
Turnaround | major | back to the top, sevenths | Imaj7 VI7, ii7 V7
Turnaround | major | back to the top, sevenths | iii7 VI7, ii7 V7
Turnaround | major | back to the top, sliding | Imaj7 bIIImaj7, bVImaj7 bIImaj7
Turnaround | major | back to the top, rising | I #i°7, ii7 V7
Turnaround | major | back to the top, blue | I7 IV7, I7 V7
Turnaround | major | back to the top, blue | I I7/3, IV7 #iv°7, I/5 VI7, ii7 V7
Turnaround | major | back to the top, plain | IV, V
Turnaround | major | back to the top, open | bVII, V
Turnaround | major | back to the top, held back | Vsus4, V
Turnaround | minor | back to the top | i VI, iiø7 V7
Turnaround | minor | back to the top, falling | i VII, VI V7
Turnaround | minor | back to the top, dark | iv, V7
Turnaround | minor | back to the top, held back | Vsus4, V7
`;
