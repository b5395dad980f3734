using Uncial.Core.Cutting;

namespace Uncial.Core.Workflow;

/// <summary>Why an action was not done. Nothing of it is kept.</summary>
public abstract record Refusal
{
    private Refusal() { }

    /// <summary>Somebody added to the part since it was shown.</summary>
    /// <param name="By">Who, where it is known.</param>
    public sealed record Outdated(string? By) : Refusal;

    /// <summary>Somebody wrote at the same moment: look again.</summary>
    public sealed record Overtaken : Refusal;

    /// <summary>Somebody did the same at the same moment.</summary>
    public sealed record DoneAlready : Refusal;

    /// <summary>The part stands where this cannot be done, or what it is about is not there any more.</summary>
    public sealed record NotNow : Refusal;

    /// <summary>It takes more than the role of who acts.</summary>
    /// <param name="Least">The least role that may.</param>
    public sealed record NeedsRole(Role Least) : Refusal;

    /// <summary>An answer is missing.</summary>
    /// <param name="What">Which.</param>
    public sealed record Missing(Answer What) : Refusal;

    /// <summary>The pass may not be started.</summary>
    /// <param name="Why">Why not.</param>
    public sealed record PassRefused(StartRefusal Why) : Refusal;

    /// <summary>Something was not looked at before the start.</summary>
    /// <param name="What">What.</param>
    public sealed record NotLookedAt(StartCheck What) : Refusal;

    /// <summary>Somebody else has started the pass and is cutting.</summary>
    /// <param name="By">Who.</param>
    /// <param name="At">When it was started.</param>
    public sealed record BeingCut(string By, DateTimeOffset At) : Refusal;

    /// <summary>The part was cut since the size was read: it is not the size of now.</summary>
    public sealed record CutSince : Refusal;

    /// <summary>The gauge failed on its standard and was not set right.</summary>
    /// <param name="Gauge">Its name.</param>
    public sealed record GaugeFailed(string Gauge) : Refusal;

    /// <summary>The reading decides: its point is read again before it is withdrawn.</summary>
    public sealed record ReadAgainFirst : Refusal;

    /// <summary>The part is not mounted anew while a plan runs.</summary>
    public sealed record PlanRuns : Refusal;

    /// <summary>The shop keeps at least one in use.</summary>
    public sealed record LastInUse : Refusal;

    /// <summary>The rules of the shop do not allow it.</summary>
    public sealed record NotInThisShop : Refusal;

    /// <summary>A part that was here before is not taken in again.</summary>
    /// <param name="Why">Why not.</param>
    public sealed record NotAgain(AgainRefusal Why) : Refusal;

    /// <summary>A part with that tag, name or number is there already.</summary>
    public sealed record Taken : Refusal;

    /// <summary>A lead's signature is missing or wrong.</summary>
    /// <param name="Why">What is wrong with it.</param>
    /// <param name="WaitSeconds">Seconds to wait; 0 for none.</param>
    /// <param name="Signer">Name of the signer, where one was named.</param>
    public sealed record NotSigned(SignatureFault Why, int WaitSeconds = 0, string? Signer = null) : Refusal;

    /// <summary>A rule that the stored facts keep is broken.</summary>
    /// <param name="Rule">Which.</param>
    public sealed record AgainstRule(StoredRule Rule) : Refusal;
}
