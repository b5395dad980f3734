namespace Uncial.Practice.Drills;

/// <summary>What is marked: each drill and each step of a job belongs to one.</summary>
public enum Skill
{
    /// <summary>Reading gauges.</summary>
    Reading,

    /// <summary>Units and limits.</summary>
    Units,

    /// <summary>Mounting, and telling the set-up's run-out from the part's.</summary>
    SetUp,

    /// <summary>Taking no more metal than needed.</summary>
    Metal,

    /// <summary>Seeing what there is, and deciding.</summary>
    Judgement,
}

/// <summary>The drills: one skill each, twenty items, marked at once.</summary>
public enum DrillKind
{
    /// <summary>Micrometer in millimetres, without and with vernier.</summary>
    Micrometer,

    /// <summary>Micrometer in inches, without and with vernier.</summary>
    InchMicrometer,

    /// <summary>Vernier and dial calipers.</summary>
    Caliper,

    /// <summary>Total reading of a dial indicator.</summary>
    Indicator,

    /// <summary>Depth micrometer.</summary>
    DepthGauge,

    /// <summary>Drum gauge: inch bar in eighths, and dial.</summary>
    Eighths,

    /// <summary>Drum gauge: start for a limit, start and dial added up.</summary>
    Starts,

    /// <summary>Converting and comparing; depth, diameter, and thickness.</summary>
    Units,

    /// <summary>Cast markings.</summary>
    Markings,

    /// <summary>Two scratches: the part's, or the set-up's.</summary>
    Scratches,

    /// <summary>Cone, cups, chuck or race cones for a part.</summary>
    Adapters,

    /// <summary>Locks and lever before a start.</summary>
    Locks,
}

/// <summary>What is known of each drill.</summary>
public static class DrillKinds
{
    /// <summary>Items of one drill.</summary>
    public const int Items = 20;

    /// <summary>The skill that a drill is about.</summary>
    public static Skill SkillOf(this DrillKind kind) =>
        kind switch
        {
            DrillKind.Units or DrillKind.Markings => Skill.Units,
            DrillKind.Scratches or DrillKind.Adapters => Skill.SetUp,
            DrillKind.Locks => Skill.Judgement,
            _ => Skill.Reading,
        };
}
