using Uncial.Core.Cutting;

namespace Uncial.Web.Text;

/// <summary>Why an action was refused, in words.</summary>
public static partial class Words
{
    private const int ShownAsSeconds = 90;

    public static string Of(Refusal refusal) =>
        refusal switch
        {
            Refusal.Outdated { By: { } by } => Say("refused.outdated", by),
            Refusal.Outdated => Say("refused.outdated", Say("refused.somebody")),
            Refusal.Overtaken => Say("refused.overtaken"),
            Refusal.DoneAlready => Say("refused.doneAlready"),
            Refusal.NotNow => Say("refused.notNow"),
            Refusal.NeedsRole needs => Say("refused.needsRole." + needs.Least),
            Refusal.Missing missing => Say("refused.missing." + missing.What),
            Refusal.PassRefused pass => Say("startRefusal." + pass.Why),
            Refusal.NotLookedAt open => Say("cut.notTicked", Say("startCheck." + open.What)),
            Refusal.BeingCut cut => Say("cut.startedThisPassAt", cut.By, Dates.Clock(cut.At)),
            Refusal.CutSince => Say("refused.cutSince"),
            Refusal.GaugeFailed gauge => Say("refused.gaugeFailed", gauge.Gauge),
            Refusal.ReadAgainFirst => Of(StoredRule.ReadAgainFirst),
            Refusal.PlanRuns => Say("mountedMidPlan"),
            Refusal.LastInUse => Say("refused.lastInUse"),
            Refusal.NotInThisShop => Say("release.notHere"),
            Refusal.NotAgain => Say("refused.notNow"),
            Refusal.Taken => Say("refused.taken"),
            Refusal.NotSigned { Why: SignatureFault.NoSigner } => Say("sign.pickWhoSigns"),
            Refusal.NotSigned { Why: SignatureFault.NoPin, Signer: var signer } => Say("sign.pinOf", signer),
            Refusal.NotSigned { Why: SignatureFault.Wait, WaitSeconds: var seconds } => Wait(seconds),
            Refusal.NotSigned => Say("sign.thatIsNotThePin"),
            Refusal.AgainstRule against => Of(against.Rule),
            _ => throw new ArgumentOutOfRangeException(nameof(refusal)),
        };

    /// <summary>Why a change of something that the shop keeps was refused.</summary>
    public static string OfChange(Refusal refusal) =>
        refusal is Refusal.Outdated or Refusal.Overtaken ? Say("refused.changedSince") : Of(refusal);

    /// <summary>A rule of the stored facts in words.</summary>
    public static string Of(StoredRule rule) => Say("rule." + rule);

    /// <summary>What is said while a PIN has to wait.</summary>
    public static string Wait(int seconds) =>
        seconds < ShownAsSeconds ? Say("sign.waitSeconds", seconds) : Say("sign.waitMinutes", (seconds + 59) / 60);
}
