package hardproof.core.evidence;

import static org.assertj.core.api.Assertions.assertThat;

import hardproof.core.Given;
import hardproof.core.criteria.Standard;
import hardproof.core.drills.Method;
import hardproof.core.estate.Kind;
import hardproof.core.proof.Exposure;
import org.junit.jupiter.api.Test;

class TablesTest {
  private static Given estate() {
    return Given.estate().point("a", 5).drill("a", Method.FULL_RESTORE, true, 10);
  }

  @Test
  void aWorkloadIsOneRowWithItsReason() {
    assertThat(Tables.workloads(estate().evaluate()))
        .isEqualTo("workload,name,owner,tier,verdict,rung,demanded,reason,to_be_proven\r\n"
            + "w,Workload w,Owner,3,proven,restored,restored,"
            + "\"restored, drilled 10 d ago; lapses in 170 d\",\r\n");
  }

  @Test
  void anOutcomeIsOneRowWithFiguresInTheUnitTheyAreMeasuredIn() {
    String[] rows = Tables.findings(estate().evaluate()).split("\r\n");
    assertThat(rows).hasSize(1 + hardproof.core.criteria.CriterionCode.values().length);
    assertThat(rows[0])
        .isEqualTo(
            "workload,resource,criterion,title,state,measured,demanded,unit,sentence,arithmetic,exception,controls");
    assertThat(rows[12])
        .startsWith("w,r,fresh-exposure-now,Exposure now,met,18000000,86400000,milliseconds,")
        .endsWith("NIST CP-9; CSF PR.DS-11");
  }

  @Test
  void anExposureIsOneRowInSecondsAndEmptyWhereThereIsNoFigure() {
    Given g = estate();
    g.resources.add(Given.resource("bare", Kind.DATABASE, "w"));
    assertThat(Tables.exposures(Exposure.of(g.at(Given.NOW), Standard.shipped())))
        .isEqualTo("resource,rpo_s,exposure_s,worst_s,attainment,by_proof_s\r\n"
            + "r,86400,18000,,0.00625,18000\r\n"
            + "bare,86400,,,0,\r\n");
  }

  @Test
  void aDrillIsOneRowWithItsThreeAnswers() {
    assertThat(Tables.drills(estate().facts().drills()))
        .isEqualTo(
            "run,resource,point,store,method,restore,checks,clean_up,rung,started,ended,bytes,sentence\r\n"
                + "run0,r,a,near,full-restore,done,passed,done,restored,2026-11-14T09:59:00Z,2026-11-14T10:00:00Z,1000,all files equal\r\n");
  }

  @Test
  void aDrillThatFailedReachedNoRung() {
    assertThat(Tables.drills(Given.estate()
            .point("a", 5)
            .drill("a", Method.DATABASE, false, 1)
            .facts()
            .drills()))
        .contains(",done,failed,done,,");
  }
}
